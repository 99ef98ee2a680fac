import { findLink } from "~/kit/server/links.server";
import { countLinkUse } from "~/kit/server/rate-limit.server";
import { addressContext } from "~/kit/server/request-context";
import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/calendar-feed.route";
import { calendarFeed } from "./calendar-feed.server";

/** The feed that calendar programs fetch: no sign-in, a token that only this feed knows. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  return served(async () => {
    await countLinkUse(context.get(addressContext));
    const link = await findLink(["person-calendar", "site-calendar"], params.token.replace(/\.ics$/, ""));
    if (!link) throw new Response("This calendar does not exist or was ended.", { status: 404 });
    const feed = await calendarFeed(link, new URL(request.url).origin, new Date());
    return new Response(feed, {
      headers: { "content-type": "text/calendar; charset=utf-8", "cache-control": "private, max-age=300" },
    });
  });
}
