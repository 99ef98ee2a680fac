import { addDays, type GroupFigures, groupFigures, pareto } from "@core";
import { getDb } from "@db";

import { grouped } from "~/kit/grouped";
import { csvText } from "~/kit/server/csv-table.server";
import { guideOf } from "~/procedures/guides/guides.server";
import { causeName } from "~/sheet/find/find-view";
import { familyName } from "~/ui/family-names";

import * as sql from "./down-time.sql";

export type { DownBy } from "./down-time.sql";
/** So many are listed, the least available first. */
const LISTED = 200;

export interface DownRow extends GroupFigures {
  key: string;
  name: string;
  machines: number;
  /** Hours that its machines were there. */
  hours: number;
}

/**
 * How machines have held up, by site, machine or family: down from when they were held out of service or reported to have stopped until
 * they were returned or the report was closed. Machines alone are listed when they failed.
 *
 * @param from, to days, both included
 */
export async function downRows(by: sql.DownBy, from: string, to: string, now: Date): Promise<DownRow[]> {
  const begin = new Date(`${from}T00:00:00Z`);
  const until = new Date(Math.min(now.getTime(), Date.parse(`${addDays(to, 1)}T00:00:00Z`)));
  if (until <= begin) return [];
  const [there, down] = await Promise.all([
    // Of machines alone those that failed are listed: what they were there for comes with them.
    by === "machine" ? [] : sql.hoursThere({ from: begin, until }, by),
    sql.downTimes({ from: begin, until }, by),
  ]);
  const failed = grouped(down, (one) => one.key);
  const groups =
    by === "machine"
      ? [...failed].map(([key, list]) => ({ key, name: list[0]?.name ?? "", machines: 1, hours: 0 }))
      : there;
  return groups
    .flatMap(({ key, name, machines, hours }): DownRow[] => {
      const spans = [...grouped(failed.get(key) ?? [], (one) => one.machineId).values()].flatMap((list) => {
        const span = list[0] && spanThere(list[0], begin, until);
        return span ? [{ ...asInput(span, list), hours: hoursOf(span) }] : [];
      });
      const failedHours = spans.reduce((sum, one) => sum + one.hours, 0);
      const unfailedHours = Math.max(0, hours - failedHours);
      if (failedHours + unfailedHours <= 0) return [];
      const figures = groupFigures({ machines: spans, unfailedHours });
      const called = by === "family" ? familyName(name) : name;
      return [{ key, name: called, machines, hours: failedHours + unfailedHours, ...figures }];
    })
    .sort((a, b) => a.availability - b.availability || b.failures - a.failures || a.name.localeCompare(b.name))
    .slice(0, LISTED);
}

const SPAN_DAYS = 365;
const DAY_MS = 86_400_000;

/** How a machine has held up, and over how many days. */
export interface HoldingUp extends GroupFigures {
  days: number;
}

/** The same of one machine: over its last year, or since it is known. */
export async function holdingUp(machineId: string, now: Date): Promise<HoldingUp> {
  const machine = await getDb().models.Machine.findByPk(machineId, {
    attributes: ["dutiesFrom", "retiredOn"],
    raw: true,
  });
  const retired = machine?.retiredOn ? Date.parse(machine.retiredOn) : Infinity;
  const until = new Date(Math.min(now.getTime(), retired));
  const known = machine?.dutiesFrom ? Date.parse(machine.dutiesFrom) : 0;
  // Of a machine that is known since today there is a day to speak of.
  const from = new Date(Math.min(until.getTime() - DAY_MS, Math.max(known, until.getTime() - SPAN_DAYS * DAY_MS)));
  const down = await sql.downTimes({ from, until, machineId }, "machine");
  const figures = groupFigures({ machines: [asInput({ from, until }, down)], unfailedHours: 0 });
  return { ...figures, days: Math.round(hoursOf({ from, until }) / 24) };
}

interface Span {
  from: Date;
  until: Date;
}

const hoursOf = ({ from, until }: Span): number => (until.getTime() - from.getTime()) / 3_600_000;

/** A machine's part of a span, from its first day to the one it was taken out on; null where it was not there in it. */
function spanThere(
  { since, retiredOn }: Pick<sql.DownTime, "since" | "retiredOn">,
  begin: Date,
  end: Date,
): Span | null {
  const from = since === null ? begin : new Date(Math.max(begin.getTime(), Date.parse(since)));
  const until = retiredOn === null ? end : new Date(Math.min(end.getTime(), Date.parse(retiredOn)));
  return from < until ? { from, until } : null;
}

function asInput({ from, until }: Span, down: readonly sql.DownTime[]) {
  return {
    from: from.toISOString(),
    until: until.toISOString(),
    failures: down
      .filter(({ stopped }) => stopped < until)
      .map(({ stopped, back }) => ({ stoppedAt: stopped.toISOString(), backAt: back?.toISOString() ?? null })),
  };
}

export interface CauseRow {
  id: string;
  name: string;
  family: string;
  n: number;
  together: number;
}

/** Causes that were found in a span, the most frequent first. */
export async function causesFound(from: string, to: string): Promise<CauseRow[]> {
  const found = await sql.causesInSpan({ from, to });
  const guides = new Map(
    await Promise.all(
      [...new Set(found.map((one) => one.family))].map(async (family) => [family, await guideOf(family)] as const),
    ),
  );
  return pareto(
    found.map(({ family, cause, n }) => {
      const name = causeName(guides.get(family) ?? { causes: [] }, cause);
      return { id: `${family} ${cause}`, name, family: familyName(family), n };
    }),
  );
}

const round = (value: number | null, places: number): string => (value === null ? "" : value.toFixed(places));

export async function downCsv(by: sql.DownBy, from: string, to: string, now: Date): Promise<string> {
  const rows = await downRows(by, from, to, now);
  return csvText(
    [by, "machines", "hours", "failures", "mtbf_hours", "mttr_hours", "availability"],
    rows.map(({ name, machines, hours, failures, mtbfHours, mttrHours, availability }) => [
      ...[name, machines, round(hours, 0), failures],
      ...[round(mtbfHours, 1), round(mttrHours, 1), round(availability, 5)],
    ]),
  );
}

export async function causesFoundCsv(from: string, to: string): Promise<string> {
  const rows = await causesFound(from, to);
  return csvText(
    ["family", "cause", "found", "with_those_above"],
    rows.map(({ family, name, n, together }) => [family, name, n, round(together, 4)]),
  );
}
