import { depotPlace } from "./depot.server";
import { dayInZone } from "./site-day";

/** The day where the firm is, and by which clock. */
export interface FirmDay {
  on: string;
  timeZone: string;
}

export async function firmDay(now: Date): Promise<FirmDay> {
  const timeZone = (await depotPlace())?.timeZone ?? "UTC";
  return { on: dayInZone(now, timeZone), timeZone };
}
