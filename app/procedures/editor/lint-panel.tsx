import { Section } from "~/ui/section";

/** The linter, live beside an editor; `placeOf` says where something is mended. */
export function LintPanel<One extends { severity: "error" | "warning"; message: string }, Place>({
  mends,
  placeOf,
  onChoose,
}: {
  mends: readonly One[];
  placeOf: (one: One) => Place | null | undefined;
  onChoose: (place: Place) => void;
}) {
  return (
    <Section id="lint" title={mends.length === 0 ? "Nothing to mend" : `${mends.length} to mend`} panel>
      <ul className="mt-1 space-y-2 text-sm" aria-live="polite">
        {mends.map((one, i) => {
          const place = placeOf(one) ?? null;
          return (
            <li key={i} className="border-l-4 border-line pl-2 wrap-anywhere">
              <strong>{one.severity === "error" ? "! " : "Better: "}</strong>
              {one.message}{" "}
              {place !== null && (
                <button type="button" className="min-h-8 underline underline-offset-4" onClick={() => onChoose(place)}>
                  Show
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </Section>
  );
}
