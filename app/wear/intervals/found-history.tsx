import type { AsFound } from "@core";
import { Link } from "react-router";

import { OnDay } from "~/ui/day";

import { foundName } from "./interval-words";
import type { Proposal } from "./list-intervals.server";

/** How a machine was found at its last services, oldest first: each in words, with a mark that reads without colour. */
export function FoundHistory({ history }: { history: Proposal["history"] }) {
  if (history.length === 0) return null;
  return (
    <ol aria-label="Found at the last services" className="mt-3 flex flex-wrap gap-x-5 gap-y-2 text-sm">
      {history.map((one) => (
        <li key={one.sheetId} className="flex items-center gap-1.5">
          <FoundMark found={one.found} />
          <span>
            <Link to={`/book/records/${one.sheetId}`}>
              <OnDay on={one.onDay} />
            </Link>{" "}
            {foundName(one.found)}
            {one.afterDays !== null && (
              <span className="text-ink-soft">
                , after <span className="figure">{one.afterDays}</span> {one.afterDays === 1 ? "day" : "days"}
              </span>
            )}
          </span>
        </li>
      ))}
    </ol>
  );
}

/** Empty, a quarter, three quarters, full and crossed: the worse the fuller. */
export function FoundMark({ found }: { found: AsFound }) {
  const full = { clean: 0, fair: 4, poor: 10, failed: 14 }[found];
  return (
    <svg viewBox="0 0 16 16" className="size-4 shrink-0" aria-hidden="true">
      <rect x="1" y={15 - full} width="14" height={full} fill={found === "fair" ? "var(--tan-fill)" : "currentColor"} />
      <rect x="1" y="1" width="14" height="14" fill="none" stroke="currentColor" strokeWidth="1.5" />
      {found === "failed" && <path d="M 4 4 L 12 12 M 12 4 L 4 12" stroke="var(--surface)" strokeWidth="2" />}
    </svg>
  );
}
