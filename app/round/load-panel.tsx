import type { DayLoad } from "~/services/day-problem.server";

/** What to take along for the day: protection, tools, and materials added up. */
export function LoadPanel({ load }: { load: DayLoad }) {
  const lists: [string, string[]][] = [
    ["Wear", load.protective],
    ["Tools", load.tools],
    ["Materials", load.materials.map((one) => `${one.name}, ${Math.round(one.qty * 100) / 100} ${one.unit}`)],
  ];
  if (lists.every(([, items]) => items.length === 0)) return null;
  return (
    <details className="panel p-4 print:block">
      <summary className="min-h-8 font-semibold">What to load</summary>
      {lists.map(
        ([title, items]) =>
          items.length > 0 && (
            <div key={title} className="mt-2">
              <h3 className="text-base">{title}</h3>
              <ul className="list-disc pl-5 text-sm">
                {items.map((item) => (
                  <li key={item} className="wrap-anywhere">
                    {item}
                  </li>
                ))}
              </ul>
            </div>
          ),
      )}
      <p className="mt-2 text-sm text-ink-soft">For what is surely done; parts that may turn out to be worn are on each duty&apos;s page.</p>
    </details>
  );
}
