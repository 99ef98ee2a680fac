import { type Agreement, agreement } from "@core";
import type { Dust } from "@db";

import type { FoundAtMachine } from "./intervals.sql";

/** How machines of one site were found at a procedure. */
export interface FoundAtSite extends Omit<FoundAtMachine, "machineId" | "machineName" | "tag"> {
  machines: number;
}

/** Whether a figure goes with being found poor. */
export interface Explains extends Agreement {
  cause: "water" | "dust" | "load";
  /** Of what it is one pair each. */
  of: "sites" | "machines";
}

const DUST_RANK: Readonly<Record<Dust, number>> = { little: 0, usual: 1, much: 2 };

/** Machines' findings added up site by site. */
export function bySite(rows: readonly FoundAtMachine[]): FoundAtSite[] {
  const sites = new Map<string, FoundAtSite & { daysSum: number; daysOf: number }>();
  for (const row of rows) {
    const { siteId, siteName, water, dust } = row;
    const none = { machines: 0, n: 0, clean: 0, fair: 0, poor: 0, failed: 0, meanDays: null, daysSum: 0, daysOf: 0 };
    const site = sites.get(siteId) ?? { siteId, siteName, water, dust, ...none };
    sites.set(siteId, site);
    site.machines += 1;
    for (const name of ["n", "clean", "fair", "poor", "failed"] as const) site[name] += row[name];
    if (row.meanDays !== null) {
      site.daysSum += row.meanDays * row.n;
      site.daysOf += row.n;
    }
  }
  return [...sites.values()].map(({ daysSum, daysOf, ...site }) => ({
    ...site,
    meanDays: daysOf === 0 ? null : daysSum / daysOf,
  }));
}

const poorShare = ({ n, poor, failed }: Pick<FoundAtMachine, "n" | "poor" | "failed">): number => (poor + failed) / n;

/**
 * What goes with being found poor: the water and the dust of sites, how much machines are used. A site counts once, and a machine
 * once, however many services it had: many services of one place are no many places.
 *
 * @param load use a day, by machine; of those of which it is known
 */
export function explained(rows: readonly FoundAtMachine[], load: ReadonlyMap<string, number>): Explains[] {
  const sites = bySite(rows);
  const water = sites.flatMap((one) => (one.water === null ? [] : [{ cause: one.water, effect: poorShare(one) }]));
  const dust = sites.map((one) => ({ cause: DUST_RANK[one.dust], effect: poorShare(one) }));
  const used = rows.flatMap((one) => {
    const rate = load.get(one.machineId);
    return rate === undefined ? [] : [{ cause: rate, effect: poorShare(one) }];
  });
  return [
    { cause: "water", of: "sites", ...agreement(water) },
    { cause: "dust", of: "sites", ...agreement(dust) },
    // A duty that goes by no meter has no load to speak of.
    ...(used.length === 0 ? [] : [{ cause: "load" as const, of: "machines" as const, ...agreement(used) }]),
  ];
}

/** Chance alone gives as much less often than once in twenty: then it is said. */
const TOLD_BELOW = 0.05;

const NAMES = {
  water: ["hard water", "the harder the water"],
  dust: ["dust", "the more dust there is"],
  load: ["load", "the more it is used"],
} as const;

/** What may be said of it, no more than the data bear. */
export function explainedWords({ cause, of, rho, byLuck, n }: Explains): string {
  const [name, more] = NAMES[cause];
  if (rho === null || byLuck === null)
    return `Whether ${name} has a part in it cannot be said from ${n} ${n === 1 ? of.slice(0, -1) : of}.`;
  const luck =
    byLuck < 0.001 ? "less than once in 1,000" : `${(byLuck * 100).toFixed(byLuck < 0.1 ? 1 : 0)} times in 100`;
  return byLuck < TOLD_BELOW
    ? `${more[0]?.toUpperCase()}${more.slice(1)}, the ${rho > 0 ? "more" : "less"} often it is found poor: over ${n} ${of} chance alone would agree as much ${luck}.`
    : `No more agreement with ${name} than chance gives, over ${n} ${of} (as much ${luck}).`;
}
