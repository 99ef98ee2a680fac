import { AHEAD_CELLS, must, type SpanName } from "@core";
import { clsx } from "clsx";
import { Link } from "react-router";

import type { AheadDuty, AheadSite } from "./ahead.server";
import { hoursWords, SPAN_NAMES } from "./cell-words";

const SPANS: SpanName[] = ["overdue", "today", "week", "month", "quarter", "year"];

/** The same as the grid for narrow screens: six spans a site, each a button that selects its duties. */
export function AheadStrips({
  sites,
  selected,
  onToggle,
}: {
  sites: readonly AheadSite[];
  selected: ReadonlySet<string>;
  onToggle: (duties: readonly AheadDuty[]) => void;
}) {
  return (
    <ul className="space-y-3">
      {sites.map((site) => (
        <li key={site.id} className="panel p-3">
          <p className="font-semibold wrap-anywhere">
            <Link to={`/sites/${site.id}`}>{site.name}</Link>
          </p>
          {site.accessHours && <p className="text-sm text-ink-soft wrap-anywhere">{site.accessHours}</p>}
          <div className="mt-2 grid grid-cols-3 gap-1 sm:grid-cols-6">
            {SPANS.map((span) => {
              const inSpan = (cell: number): boolean => must(AHEAD_CELLS[cell]).span === span;
              const duties = site.duties.filter((one) => inSpan(one.cell));
              const repeats = site.repeats.reduce((sum, one, cell) => sum + (inSpan(cell) ? one.count : 0), 0);
              const chosen = duties.length > 0 && duties.every((one) => selected.has(one.dutyId));
              return (
                <button
                  key={span}
                  type="button"
                  aria-pressed={chosen}
                  onClick={() => onToggle(duties)}
                  className={clsx(
                    "min-h-14 border border-line p-1.5 text-left",
                    chosen ? "bg-tan-fill text-on-tan" : "bg-surface",
                  )}
                >
                  <span className="block text-xs">{SPAN_NAMES[span]}</span>
                  <span className="figure block font-semibold">
                    {duties.length === 0 ? "–" : duties.length}
                    {repeats > 0 && <span className="text-xs font-normal"> +{repeats}</span>}
                  </span>
                  {duties.length > 0 && (
                    <span className="block text-xs">
                      {hoursWords(duties.reduce((sum, one) => sum + one.handsOn, 0))}
                    </span>
                  )}
                </button>
              );
            })}
          </div>
        </li>
      ))}
    </ul>
  );
}
