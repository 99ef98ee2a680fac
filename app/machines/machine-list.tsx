import { Link } from "react-router";

import { LeadMark, leadWords } from "~/duties/lead-mark";
import { OnDay } from "~/ui/day";
import { FamilyGlyph } from "~/ui/family-glyph";
import { familyName } from "~/ui/family-names";

import type { MachineWithNext } from "./machines.server";

/** Machines with what one has to know of each: what comes next and when, where it stands, what is left open, whether it may be used. */
export function MachineList({ rows, showSite = true }: { rows: readonly MachineWithNext[]; showSite?: boolean }) {
  return (
    <ul className="panel divide-y divide-line">
      {rows.map((row) => (
        <li key={row.id} className="relative flex items-center gap-3 px-3 py-2.5 hover:bg-sunken sm:gap-4">
          <Next next={row.next} />
          <span className="hidden sm:block">
            <FamilyGlyph family={row.family} />
          </span>
          <div className="min-w-0 flex-1">
            <p className="font-semibold wrap-anywhere">
              <Link to={`/machines/${row.id}`} className="after:absolute after:inset-0">
                {row.name}
              </Link>
            </p>
            <p className="text-sm text-ink-soft wrap-anywhere">
              {familyName(row.family)}
              {showSite && ` · ${row.siteName}`}
              {row.area && `, ${row.area}`}
            </p>
            {row.leftOpen > 0 && <p className="text-sm">{row.leftOpen} left open</p>}
            {row.outOfService ? <p className="text-sm font-bold">! Out of service</p> : null}
          </div>
          <p className="figure shrink-0 text-right text-sm">
            {row.tag}
            <span className="block max-w-40 truncate text-xs text-ink-soft">{row.serial}</span>
          </p>
        </li>
      ))}
    </ul>
  );
}

function Next({ next }: { next: MachineWithNext["next"] }) {
  return (
    <div className="w-24 shrink-0 text-center text-xs leading-tight text-ink-soft">
      {next === null ? (
        "nothing comes due"
      ) : (
        <>
          <LeadMark {...next} />
          {leadWords(next.state, next.dueOn, next.today)}
          {next.dueOn !== null && (
            <span className="block">
              <OnDay on={next.dueOn} />
            </span>
          )}
        </>
      )}
    </div>
  );
}
