import { inWords } from "@core";
import { Link } from "react-router";

import { capital } from "~/kit/capital";
import { shortDay } from "~/kit/days/day-time";
import { Section } from "~/ui/section";

import type { UnreadMeter } from "./unread-meters.server";

/** So many machines are named at once: the rest follows when these are read. */
const SHOWN = 6;

/** Meters that want reading: without them nobody knows when their duties are due. */
export function UnreadMeters({
  meters,
  today,
  machine = null,
}: {
  meters: readonly UnreadMeter[];
  today: string;
  /** On the machine's own page its name goes without saying. */
  machine?: string | null;
}) {
  if (meters.length === 0) return null;
  const more = meters.length - SHOWN;
  return (
    <Section id="read-meters" title={machine === null ? "Meters to read" : "Read the meter"} className="mb-6">
      <ul className="panel divide-y divide-line">
        {meters.slice(0, SHOWN).map(({ machineId, machineName, machineTag, siteName, meter, lastReadOn, duties }) => (
          <li key={`${machineId}${meter}`} className="relative px-3 py-2 hover:bg-sunken">
            <p className="wrap-anywhere">
              <Link to={`/machines/${machineId}#meters`} className="font-semibold after:absolute after:inset-0">
                {machine === null ? machineName : `Read “${inWords(meter)}”`}
              </Link>
              {machine === null && (
                <>
                  {" "}
                  <span className="figure text-ink-soft">{machineTag}</span> · read “{inWords(meter)}”
                </>
              )}
            </p>
            <p className="text-sm text-ink-soft wrap-anywhere">
              {capital(lastReadOn === null ? "never read" : `last read ${shortDay(lastReadOn, today)}`)}
              {machine === null && ` at ${siteName}`}. Until it is read, nobody knows the day of{" "}
              {duties.map((duty) => dutyWords(duty, today)).join(", ")}.
            </p>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="mt-1 text-sm">{more === 1 ? "One more meter waits." : `${more} more meters wait.`}</p>}
    </Section>
  );
}

function dutyWords({ title, expected, about }: UnreadMeter["duties"][number], today: string): string {
  if (expected === today) return `${title} (expected today)`;
  if (expected !== null) return `${title} (expected ${shortDay(expected, today)}, which has passed)`;
  return about === null ? title : `${title} (about ${shortDay(about, today)}, by past services only)`;
}
