import { Link } from "react-router";

import { outcomeName } from "~/kit/outcomes";
import { OnDay } from "~/ui/day";
import { FamilyGlyph } from "~/ui/family-glyph";

import type { DueRow } from "./due.server";
import { LeadMark, leadWords } from "./lead-mark";

/** Duties as lines: the lead, what and where, and what stood in the way last time. */
export function DueList({ rows, showMachine = true }: { rows: DueRow[]; showMachine?: boolean }) {
  return (
    <ul className="panel divide-y divide-line">
      {rows.map((row) => (
        <li key={row.dutyId} className="relative flex items-center gap-3 px-3 py-3 hover:bg-sunken sm:gap-5">
          <div className="w-24 shrink-0 text-center">
            <LeadMark
              state={row.state}
              anchorOn={row.anchorOn}
              dueOn={row.dueOn}
              today={row.today}
              rivals={row.rivals}
              foretoldFrom={row.foretoldFrom}
              foretoldTo={row.foretoldTo}
              hardStop={row.hardStop}
            />
            <p className="text-xs leading-tight text-ink-soft">{leadWords(row.state, row.dueOn, row.today)}</p>
            <p className="figure mt-1 text-xs text-ink-soft sm:hidden">
              {row.takes.hands} min<span className="block">hands-on</span>
            </p>
          </div>
          {showMachine && (
            <span className="hidden sm:block">
              <FamilyGlyph family={row.family} />
            </span>
          )}
          <div className="min-w-0 flex-1">
            <p className="font-semibold wrap-anywhere">
              <Link to={`/duties/${row.dutyId}`} className="after:absolute after:inset-0">
                {row.title}
              </Link>
            </p>
            {showMachine && (
              <p className="text-sm wrap-anywhere">
                {row.machineName} <span className="figure text-ink-soft">{row.machineTag}</span>
              </p>
            )}
            {showMachine && (
              <p className="text-sm text-ink-soft wrap-anywhere">
                {row.siteName}
                {row.area && `, ${row.area}`}
                {row.accessHours && ` · ${row.accessHours}`}
              </p>
            )}
            {row.outOfService && (
              <p className="text-sm font-bold">
                <span aria-hidden="true">! </span>Machine out of service
              </p>
            )}
            {row.plannedOn !== null && row.plannedOn >= row.today && (
              <p className="text-sm wrap-anywhere">
                Planned: {row.plannedForName ?? "somebody"}, <OnDay on={row.plannedOn} />
              </p>
            )}
            {row.openSheetId && <p className="text-sm font-semibold">Sheet open: go on with it</p>}
            {row.lastOutcome && (
              <p className="text-sm wrap-anywhere">
                <strong>{outcomeName(row.lastOutcome.outcome)}:</strong> {row.lastOutcome.reason}
              </p>
            )}
          </div>
          <p className="figure hidden shrink-0 text-right text-sm whitespace-nowrap sm:block">
            {row.takes.hands} min
            <span className="block text-xs text-ink-soft">
              hands-on{row.takes.waits > 0 && `, + ${row.takes.waits} min waits`}
            </span>
            <span className="block text-xs text-ink-soft">
              {row.dueOn === null ? "no day yet" : <OnDay on={row.dueOn} />}
            </span>
          </p>
        </li>
      ))}
    </ul>
  );
}
