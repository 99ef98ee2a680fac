import { dayInZone } from "~/kit/days/site-day";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { sheetContext } from "~/sheet/log/sheet-context.server";

import type { Route } from "./+types/work-elsewhere.route";
import { workElsewhere } from "./work-elsewhere.server";

/** Where to go on while the clocks of a sheet run: asked for when nothing else can be done on it. */
export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const { sheet, duty, timeZone } = await sheetContext(params.sheetId);
    const here = { sheetId: sheet.id, dutyId: duty.id, siteId: duty.siteId };
    const elsewhere = await workElsewhere(actorOf(context).id, here, dayInZone(new Date(), timeZone));
    return Response.json({ elsewhere }, { headers: { "Cache-Control": "no-store" } });
  });
}
