import { clsx } from "clsx";

/** The parts of a draft beside its lists. */
export function SectionsNav({
  label,
  sections,
  chosen,
  onChoose,
}: {
  label: string;
  sections: readonly { id: string; title: string }[];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  return (
    <nav aria-label={label}>
      <ul>
        {sections.map(({ id, title }) => (
          <li key={id}>
            <button
              type="button"
              aria-current={id === chosen ? "true" : undefined}
              className={clsx(
                "min-h-11 w-full border-l-4 px-3 py-1.5 text-left",
                id === chosen ? "border-tan-fill bg-surface font-semibold" : "border-transparent",
              )}
              onClick={() => onChoose(id)}
            >
              {title}
            </button>
          </li>
        ))}
      </ul>
    </nav>
  );
}
