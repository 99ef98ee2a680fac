import { addDays, type FailureFigures, groupFigures, pareto, UNKNOWN_CAUSE } from "@core";

import { csvText } from "~/kit/server/csv-table.server";
import { guideOf } from "~/procedures/guides/guides.server";
import { causeName } from "~/sheet/find/find-view";
import { familyName } from "~/ui/family-names";

import * as sql from "./down-time.sql";

export type { DownBy } from "./down-time.sql";
/** So many are listed, the least available first. */
const LISTED = 200;

export interface DownRow extends FailureFigures {
  key: string;
  name: string;
  machines: number;
  failures: number;
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
  const end = addDays(to, 1);
  const until = new Date(Math.min(now.getTime(), Date.parse(`${end}T00:00:00Z`)));
  const span = { from: `${from} 00:00:00`, until: until.toISOString().slice(0, 19).replace("T", " ") };
  const [there, down] = await Promise.all([
    // Of machines alone those that failed are listed: what they were there for comes with them.
    by === "machine" ? [] : sql.hoursThere(span, by),
    sql.downTimes(span, by),
  ]);
  const failed = new Map(
    [...grouped(down, (one) => one.key)].map(([key, list]) => [key, failedMachines(list, from, until)]),
  );
  const rows =
    by === "machine"
      ? [...grouped(down, (one) => one.key)].flatMap(([key, list]) =>
          (failed.get(key) ?? []).length > 0 ? [{ key, name: list[0]?.name ?? "", machines: 1, hours: 0 }] : [],
        )
      : there.filter(({ hours }) => hours > 0);
  return rows
    .map(({ key, name, machines, hours }) => {
      const list = failed.get(key) ?? [];
      const failedHours = list.reduce((sum, one) => sum + (Date.parse(one.until) - Date.parse(one.from)) / HOUR_MS, 0);
      const figures = groupFigures({ machines: list, unfailedHours: Math.max(0, hours - failedHours) });
      const called = by === "family" ? familyName(name) : name;
      return { key, name: called, machines, hours: Math.max(hours, failedHours), ...figures };
    })
    .sort((a, b) => a.availability - b.availability || b.failures - a.failures || a.name.localeCompare(b.name))
    .slice(0, LISTED);
}

const HOUR_MS = 3_600_000;

/** Machines that were down in the span while they were there. */
function failedMachines(list: readonly sql.DownTime[], from: string, until: Date) {
  return [...grouped(list, (one) => one.machineId).values()].flatMap((one) => {
    const span = spanOf(one, from, until);
    return span === null ? [] : [span];
  });
}

function grouped<One>(list: readonly One[], by: (one: One) => string): Map<string, One[]> {
  const groups = new Map<string, One[]>();
  for (const one of list) {
    const known = groups.get(by(one));
    if (known) known.push(one);
    else groups.set(by(one), [one]);
  }
  return groups;
}

/** A machine's part of the span with what stopped it; null where it was not there in it. */
function spanOf(list: readonly sql.DownTime[], from: string, until: Date) {
  const [first] = list;
  const begin = [from, first?.since ?? from].sort().at(-1) ?? from;
  const end = first?.retiredOn ? new Date(Math.min(until.getTime(), Date.parse(first.retiredOn))) : until;
  if (Date.parse(begin) >= end.getTime()) return null;
  return {
    from: `${begin}T00:00:00.000Z`,
    until: end.toISOString(),
    failures: list
      .filter(({ stopped }) => stopped < end)
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
      const guide = guides.get(family);
      const name = cause === UNKNOWN_CAUSE ? "Nothing found" : guide ? causeName(guide, cause) : cause;
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
