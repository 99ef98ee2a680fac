import { dayFromCompletions } from "@core";

import * as sql from "./unread-meters.sql";

/** A machine of which nobody knows when its work is due, as its meter was not read. */
export interface UnreadMeter {
  machineId: string;
  machineName: string;
  machineTag: string;
  siteName: string;
  meter: string;
  lastReadOn: string | null;
  /**
   * What hangs on it: `expected` is the forecast day that has come without a reading; of a duty without a day, `about` is one by
   * past completions, where there are any.
   */
  duties: { dutyId: string; title: string; expected: string | null; about: string | null }[];
}

/** More duties than that make no better list of machines to read. */
const MOST = 60;
/** Completions of a duty that its rhythm is told from: as many intervals as the core looks at, and one, for days with several. */
const LATEST = 8;

/** Meters whose reading would give a day to a duty that has none, or tell whether one is due that is only expected: three queries. */
export async function unreadMeters(today: string, machineId: string | null = null): Promise<UnreadMeter[]> {
  const rows = await sql.unreadDuties({ today, machineId, most: MOST });
  if (rows.length === 0) return [];
  const without = rows.filter((row) => row.dueOn === null).map((row) => row.dutyId);
  const [reads, completions] = await Promise.all([
    sql.lastRead({ machineIds: [...new Set(rows.map((row) => row.machineId))] }),
    without.length === 0 ? [] : sql.latestCompletions({ dutyIds: without, most: LATEST }),
  ]);
  const found = new Map<string, UnreadMeter>();
  for (const { dutyId, title, rules, dueOn, ...machine } of rows) {
    for (const trigger of rules.triggers) {
      if (trigger.kind !== "meter") continue;
      const key = `${machine.machineId} ${trigger.meter}`;
      const { machineId, machineName, machineTag, siteName } = machine;
      const lastReadOn = reads.find((one) => one.machineId === machineId && one.meter === trigger.meter)?.on ?? null;
      // A reading of today says what there is to say; the next one, on another day, says more.
      if (lastReadOn !== null && lastReadOn >= today) continue;
      const one = found.get(key) ?? {
        machineId,
        machineName,
        machineTag,
        siteName,
        meter: trigger.meter,
        lastReadOn,
        duties: [],
      };
      const past = completions.filter((done) => done.dutyId === dutyId).map((done) => done.doneOn);
      one.duties.push({ dutyId, title, expected: dueOn, about: dayFromCompletions(past)?.on ?? null });
      found.set(key, one);
    }
  }
  return [...found.values()];
}
