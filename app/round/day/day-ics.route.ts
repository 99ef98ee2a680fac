import { firmDay } from "~/kit/firm-day.server";
import { served } from "~/kit/served.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/day-ics.route";
import { getDayView } from "./day.server";
import { dayCalendar } from "./day-calendar.server";

export async function loader({ request, context }: Route.LoaderArgs) {
  const { searchParams, origin } = new URL(request.url);
  const now = new Date();
  const asked = searchParams.get("on");
  const on = asked && /^\d{4}-\d{2}-\d{2}$/.test(asked) ? asked : (await firmDay(now)).on;
  const view = await served(getDayView(searchParams.get("for") ?? actorOf(context).id, on, now));
  return new Response(dayCalendar(view, origin), {
    headers: {
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": `attachment; filename="round-${on}.ics"`,
    },
  });
}
