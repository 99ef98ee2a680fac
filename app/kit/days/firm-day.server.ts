import type { Transaction } from "@db";

import { depotPlace } from "./depot.server";
import { dayInZone } from "./site-day";

/** The day where the firm is. */
export async function firmDay(now: Date, tx?: Transaction): Promise<{ on: string; timeZone: string }> {
  const timeZone = (await depotPlace(tx))?.timeZone ?? "UTC";
  return { on: dayInZone(now, timeZone), timeZone };
}
