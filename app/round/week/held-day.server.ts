import { allPhases, type DayFigures, dayFigures, type DayProblem, type LeftOut, must } from "@core";

import type { FirmDay } from "~/kit/days/firm-day.server";
import { search } from "~/kit/server/aside.server";
import { notBefore, SERVER_STEPS } from "~/round/day/day.server";
import { buildDay, type BuiltDay } from "~/round/day/day-problem.server";
import { findDay, freshDay } from "~/round/day/day-row.server";
import { spreadsOf } from "~/round/day/spreads";

import type { WeekPerson } from "./week.server";
import type { WeekDutyRow } from "./week.sql";

/** Worth of what is on a day already, and of what was found for it: they stay while something else is tried. */
const STAYS = 1_000_000;
const KEPT = 10_000;

export type Duty = WeekDutyRow;

/** What the week is made from. */
export interface Week {
  from: string;
  days: string[];
  /** Where the firm is. */
  clock: FirmDay;
  now: Date;
  people: WeekPerson[];
  /** Who may do a duty by family, territory and authorisation. */
  may: (person: WeekPerson, duty: Duty) => boolean;
  duties: Map<string, Duty>;
  chance: number;
}

/** A person's day with what holds on it. */
export interface Slot {
  person: string;
  day: number;
  /** Duties that are new on it. */
  duties: string[];
  built: BuiltDay | null;
  figures: DayFigures | null;
  order: string[];
  /** Hands-on minutes at each site, of all that is on it. */
  hands: Map<string, number>;
  /** Minutes of the day, for everybody who goes. */
  room: number;
  /** Why the rest of what was chosen is not on it. */
  left: LeftOut[];
  /** What was on it already does not hold. */
  blocked: boolean;
}

/** What of the chosen duties holds on a day beside what is on it already: as many of them as are worth most. */
export async function heldDay(
  week: Week,
  { person, day }: Pick<Slot, "person" | "day">,
  chosen: readonly string[],
  kept: ReadonlySet<string> | null = null,
): Promise<Slot> {
  const on = must(week.days[day]);
  const who = must(week.people.find((one) => one.id === person));
  const row = (await findDay(person, on)) ?? freshDay(person, on, who);
  const nothing = { duties: [], built: null, figures: null, order: [], left: [], hands: new Map(), room: 0 };
  const empty: Slot = { person, day, ...nothing, blocked: false };
  if (row.status !== "open") return empty;
  const from = notBefore({ ...row, fixedOrder: null }, week.clock, week.now);
  const built = await buildDay(from, [], null, chosen);
  const mine = new Set(chosen);
  const problem = {
    ...built.problem,
    sites: built.problem.sites.map((site) => ({
      ...site,
      jobs: site.jobs.map((job) => {
        if (!mine.has(job.id)) return { ...job, value: STAYS };
        return kept?.has(job.id) ? { ...job, value: KEPT + (job.value ?? 0) } : job;
      }),
    })),
  };
  const spread = spreadsOf(built.duties);
  const reasons = kept !== null;
  const found = await search("proposeDay", problem, SERVER_STEPS, { chance: week.chance, spread, reasons });
  const duties = found.jobs.filter((id) => mine.has(id));
  // What was on the day and does not hold with anything else stays as it is: nothing is put there.
  if (problem.sites.some((site) => site.jobs.some((job) => !mine.has(job.id) && !found.jobs.includes(job.id))))
    return { ...empty, blocked: true };
  return {
    person,
    day,
    // What one duty contains is done with it; what stands on the day already stays there as it is.
    duties: [...duties, ...contained(built, duties).filter((id) => mine.has(id))],
    built,
    figures: dayFigures(built.problem, found.plan, { startAt: built.problem.startAt, risk: found.risk }),
    order: found.plan.stops.map((stop) => stop.site),
    hands: handsAt(built.problem, new Set(found.jobs)),
    room: (built.problem.endBy - built.problem.startAt) * built.problem.technicians,
    left: found.left,
    blocked: false,
  };
}

/** Hands-on minutes of these jobs, by site. */
const handsAt = ({ sites }: DayProblem, jobs: ReadonlySet<string>): Map<string, number> =>
  new Map(
    sites.flatMap((site) => {
      const mine = site.jobs.filter((job) => jobs.has(job.id)).flatMap(allPhases);
      const minutes = mine.reduce((sum, phase) => (phase.kind === "hands" ? sum + phase.minutes : sum), 0);
      return mine.length > 0 ? [[site.id, minutes] as const] : [];
    }),
  );

/** Duties that are done with one of these. */
const contained = ({ duties }: BuiltDay, done: readonly string[]): string[] => {
  const titles = new Map(duties.map((one) => [one.dutyId, one]));
  return duties
    .filter((one) => one.containedIn !== null && !done.includes(one.dutyId))
    .filter((one) =>
      done.some((id) => {
        const other = titles.get(id);
        return other?.machineId === one.machineId && other.title === one.containedIn;
      }),
    )
    .map((one) => one.dutyId);
};
