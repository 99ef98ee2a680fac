import { depotPlace } from "./depot.server";
import { dayInZone } from "./site-day";

/** The day where the firm is. */
export async function firmDay(now: Date): Promise<{ on: string; timeZone: string }> {
  const timeZone = (await depotPlace())?.timeZone ?? "UTC";
  return { on: dayInZone(now, timeZone), timeZone };
}
