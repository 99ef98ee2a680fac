import { addDays, type DayFigures, daysBetween, must } from "@core";

import { dueNow } from "~/duties/due.server";
import { dutyTakes } from "~/duties/duty-takes";
import { isRepair } from "~/duties/general-procedures";
import { heldAmong } from "~/duties/holds.server";
import { whyNotWork } from "~/kit/actor";
import { minuteOfDay, minutesOf, weekdayOf } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { search } from "~/kit/server/aside.server";
import { procedureTakes } from "~/procedures/procedures.server";
import { firmChance } from "~/round/chance.server";
import { ARRIVING_MINUTES, LEAVING_MINUTES, worth } from "~/round/day/day-problem.server";
import { hoursOn } from "~/round/day/day-sites.server";

import { type Duty, heldDay, type Slot, type Week } from "./held-day.server";
import { plannedCells, technicians, WEEK_DAYS, type WeekPerson } from "./week.server";
import * as sql from "./week.sql";
import { type Ground, groundOf, latenessOf, waysOf, type WeekLate, type WeekWays } from "./week-ground.server";
import { actorsOf } from "./week-people.server";
import { type WhyLeft, whyNot } from "./why-left";

/** Steps of the search that gives duties to people and days. */
const STEPS = 1200;
/** Days that what found no place is tried on once more, and duties tried on one of them. */
const MOST_DAYS_AGAIN = 12;
const MOST_AGAIN = 30;
/** A person's day as the week would have it, planned by the planner of the day's own page. */
export interface ProposedWeekDay {
  person: string;
  /** Place in the week, and its date. */
  day: number;
  on: string;
  /** What would be put there, by sites in the order of the round. */
  stops: { site: string; name: string; duties: { id: string; title: string; machineName: string }[] }[];
  figures: DayFigures;
}

export interface WeekProposal {
  from: string;
  considered: number;
  /** Due as well, on machines that are out of use. */
  held: number;
  days: ProposedWeekDay[];
  /** Days on which what is on them already does not hold: nothing is put there. */
  blocked: { person: string; day: number }[];
  /** What found no place, and why, the worthiest first. */
  left: { id: string; name: string; because: string }[];
  chance: number;
  way: WeekWays;
  late: WeekLate;
}

/** How far a proposal is: days planned, of so many. */
export type WeekProgress = (done: number, total: number) => void;

/**
 * The best week for everybody: what is due by its end and on nobody's day goes to who may do it, where and when. Every day of it
 * is planned as its own page plans it and holds as often as the firm wants; what does not is tried on other days.
 */
export async function proposeWeek(from: string, now: Date, onProgress: WeekProgress = () => {}): Promise<WeekProposal> {
  const people = await technicians();
  const last = addDays(from, WEEK_DAYS - 1);
  // What was planned for a day that has passed is open again.
  const clock = await firmDay(now);
  const rows = await sql.dutiesOfWeek({ last, today: clock.on });
  const held = await heldAmong([...new Set(rows.map((row) => row.machineId))]);
  const duties = rows.filter((row) => !held.has(row.machineId) || isRepair(row.procedureId));
  const actors = await actorsOf(people);
  const week: Week = {
    from,
    days: Array.from({ length: WEEK_DAYS }, (_, i) => addDays(from, i)),
    clock,
    now,
    people,
    may: (person, duty) =>
      (person.families.length === 0 || person.families.includes(duty.family)) &&
      (person.territory.length === 0 || person.territory.includes(duty.siteId)) &&
      whyNotWork(must(actors.get(person.id)), duty, from) === null,
    duties: new Map(duties.map((duty) => [duty.id, duty])),
    chance: await firmChance(),
  };
  const rooms = await roomsOf(week);
  const ground = await groundOf(week.days, [...week.duties.values()]);
  onProgress(0, 1);
  const given = await assigned(week, rooms, ground);
  const again = placesAgain(week, rooms);
  const slots = new Map<string, Slot>();
  let done = 1;
  const goesOn = (): void => onProgress(++done, 1 + given.length + again.length);
  onProgress(1, 1 + given.length + again.length);
  await inTurn(given, async ({ person, day, duties: chosen }) => {
    const slot = await heldDay(week, { person, day }, chosen);
    slots.set(`${person} ${day}`, slot);
    goesOn();
  });
  const why = await triedAgain(week, again, slots, goesOn);
  const placed = new Set([...slots.values()].flatMap((slot) => slot.duties));
  const left = duties
    .filter((duty) => !placed.has(duty.id))
    .map((duty) => ({ duty, value: valueOf(duty, from) }))
    .sort((a, b) => b.value - a.value)
    .map(({ duty }) => duty);
  return {
    from,
    considered: duties.length,
    held: rows.length - duties.length,
    blocked: [...slots.values()].filter((slot) => slot.blocked).map(({ person, day }) => ({ person, day })),
    days: [...slots.values()].filter((slot) => slot.duties.length > 0).map((slot) => inWords(week, slot)),
    left: left.map((duty) => ({
      id: duty.id,
      name: `${duty.title}, ${duty.machineName}`,
      because: why.get(duty.id)?.words ?? "nobody who may do it has room in these days",
    })),
    chance: week.chance,
    way: waysOf(ground, [...slots.values()]),
    late: latenessOf([...slots.values()], {
      dutyOf: (id) => must(week.duties.get(id)),
      dueOf: (duty) => Math.max(0, daysBetween(from, duty.dueOn)),
      couldBe: (duty, day) =>
        !ground.closed.has(`${duty.siteId} ${week.days[day]}`) &&
        people.some((person) => must(must(rooms.get(person.id))[day]) > 0 && week.may(person, duty)),
    }),
  };
}

const valueOf = (duty: Duty, on: string): number => {
  const due = dueNow({ ...duty, hardStop: duty.hardStop, projected: duty.projected }, on);
  return worth(due.state, due.daysLeft, duty.hardStop);
};

/** Minutes that each person has on each day; what is on a day takes its hours, and hours that have passed are none. */
async function roomsOf({
  from,
  days,
  people,
  clock: { on: today, timeZone },
  now,
}: Week): Promise<Map<string, number[]>> {
  const taken = new Map(
    (await plannedCells(people, from, must(days[WEEK_DAYS - 1]))).map((cell) => {
      const start = minutesOf(must(people.find((person) => person.id === cell.person)).dayFrom);
      // Of a planned day all that it takes, ways and waits too.
      return [`${cell.person} ${cell.day}`, cell.figures ? Math.max(0, cell.figures.backAt - start) : cell.minutes];
    }),
  );
  return new Map(
    people.map((person) => [
      person.id,
      days.map((day) => {
        // Weekends are free unless somebody plans them by hand.
        if (weekdayOf(day) > 5 || day < today) return 0;
        const start = Math.max(minutesOf(person.dayFrom), day === today ? minuteOfDay(now, timeZone) : 0);
        const end = minutesOf(person.dayTo);
        // A planned day has its breaks in what it takes.
        const used = taken.get(`${person.id} ${day}`);
        const breaks = person.breaks.filter((one) => start + one.by < end);
        const rests = used === undefined ? breaks.reduce((sum, one) => sum + one.minutes, 0) : 0;
        return Math.max(0, end - start - rests - (used ?? 0));
      }),
    ]),
  );
}

interface Given {
  person: string;
  day: number;
  duties: string[];
}

/** A first share of the work, by estimates of minutes and ways. */
async function assigned(
  week: Week,
  rooms: ReadonlyMap<string, number[]>,
  { sites, travel, closed }: Ground,
): Promise<Given[]> {
  const { days, people, from } = week;
  const duties = [...week.duties.values()];
  if (sites.length === 0) return [];
  const takes = await procedureTakes([...new Set(duties.map((row) => row.procedureId))]);
  const plan = await search(
    "assignWeek",
    {
      days: WEEK_DAYS,
      people: people.map((person) => ({
        id: person.id,
        minutes: must(rooms.get(person.id)),
        sites: person.territory.length > 0 ? person.territory : null,
      })),
      sites: sites.map((site) => ({
        id: site.id,
        overhead: ARRIVING_MINUTES + LEAVING_MINUTES,
        open: days.map((day) =>
          closed.has(`${site.id} ${day}`)
            ? 0
            : (hoursOn(site.accessHours, day)?.reduce((sum, [open, close]) => sum + close - open, 0) ?? 1440),
        ),
      })),
      duties: duties.map((row) => {
        const { hands } = dutyTakes(row, takes.get(row.procedureId));
        const may = people.filter((person) => week.may(person, row));
        return {
          id: row.id,
          site: row.siteId,
          hands,
          longest: Math.max(hands, row.minutes),
          value: valueOf(row, from),
          due: daysBetween(from, row.dueOn),
          people: may.length === people.length ? null : may.map((person) => person.id),
        };
      }),
      travel,
    },
    STEPS,
  );
  return plan.routes.map(({ person, day, stops }) => ({
    person,
    day,
    duties: stops.flatMap((stop) => stop.duties),
  }));
}

/** Days that have room, the earliest first, on which what found no place is tried. */
function placesAgain(week: Week, rooms: ReadonlyMap<string, number[]>): { person: WeekPerson; day: number }[] {
  return week.days
    .flatMap((_, day) => week.people.map((person) => ({ person, day })))
    .filter(({ person, day }) => must(must(rooms.get(person.id))[day]) > 0)
    .slice(0, MOST_DAYS_AGAIN);
}

/**
 * What found no place is tried on the days that have room.
 *
 * @returns why what is left then found none
 */
async function triedAgain(
  week: Week,
  places: ReturnType<typeof placesAgain>,
  slots: Map<string, Slot>,
  goesOn: () => void,
): Promise<Map<string, WhyLeft>> {
  const why = new Map<string, WhyLeft>();
  const open = (): Duty[] => {
    const placed = new Set([...slots.values()].flatMap((slot) => slot.duties));
    return [...week.duties.values()].filter((duty) => !placed.has(duty.id));
  };
  for (const { person, day } of places) {
    goesOn();
    const candidates = open()
      .filter((duty) => week.may(person, duty))
      .sort((a, b) => valueOf(b, week.from) - valueOf(a, week.from))
      .slice(0, MOST_AGAIN)
      .map((duty) => duty.id);
    if (candidates.length === 0) continue;
    const known = slots.get(`${person.id} ${day}`)?.duties ?? [];
    const slot = await heldDay(week, { person: person.id, day }, [...known, ...candidates], new Set(known));
    for (const left of slot.left) {
      const one = whyNot(left, person.name, must(week.days[day]));
      if (one.rank > (why.get(left.job)?.rank ?? -1)) why.set(left.job, one);
    }
    for (const { dutyId, containedIn } of slot.built?.duties ?? [])
      if (containedIn !== null && candidates.includes(dutyId))
        why.set(dutyId, { rank: 2, words: `is done with “${containedIn}”, which finds none` });
    // What had a place keeps it.
    if (known.every((id) => slot.duties.includes(id))) slots.set(`${person.id} ${day}`, slot);
  }
  return why;
}

function inWords({ days, duties }: Week, slot: Slot): ProposedWeekDay {
  const built = must(slot.built);
  return {
    person: slot.person,
    day: slot.day,
    on: must(days[slot.day]),
    stops: slot.order.flatMap((site) => {
      const here = slot.duties.flatMap((id) => {
        const duty = must(duties.get(id));
        return duty.siteId === site ? [{ id, title: duty.title, machineName: duty.machineName }] : [];
      });
      const name = built.sites.find((one) => one.id === site)?.name ?? "a site";
      return here.length === 0 ? [] : [{ site, name, duties: here }];
    }),
    figures: must(slot.figures),
  };
}

/** Some at once: as many as there are threads to search in. */
async function inTurn<Item>(items: readonly Item[], work: (item: Item) => Promise<void>): Promise<void> {
  const waiting = [...items];
  const worker = async (): Promise<void> => {
    for (let item = waiting.shift(); item !== undefined; item = waiting.shift()) await work(item);
  };
  await Promise.all([worker(), worker()]);
}
