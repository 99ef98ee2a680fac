import { firmDay } from "~/kit/days/firm-day.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/day-ics.route";
import { getDayView } from "./day.server";
import { dayCalendar } from "./day-calendar.server";
import { daySearchSchema } from "./day-schemas";

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const asked = readQuery(request, daySearchSchema);
    const now = new Date();
    const on = asked.on ?? (await firmDay(now)).on;
    const view = await getDayView(asked.for ?? actorOf(context).id, on, now);
    return new Response(dayCalendar(view, new URL(request.url).origin), {
      headers: {
        "content-type": "text/calendar; charset=utf-8",
        "content-disposition": `attachment; filename="round-${on}.ics"`,
      },
    });
  });
}
