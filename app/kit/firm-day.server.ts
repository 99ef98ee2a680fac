import { dayInZone } from "./site-day";
import { depotPlace } from "./depot.server";

/** The day where the firm is. */
export async function firmDay(now: Date): Promise<{ on: string; timeZone: string }> {
  const timeZone = (await depotPlace())?.timeZone ?? "UTC";
  return { on: dayInZone(now, timeZone), timeZone };
}
