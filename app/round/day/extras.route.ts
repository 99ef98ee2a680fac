import { served } from "~/kit/server/served.server";
import { actorById } from "~/people/people.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/extras.route";
import { whoseDay } from "./day-action.server";
import { extrasOf } from "./extras.server";
import { ownDay } from "./own-day";

/** What a day has room for on the machines it goes to anyway. */
export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const { personId, on } = await whoseDay({ request, context });
    ownDay(personId)(actorOf(context));
    return { extras: await extrasOf(await actorById(personId), on, new Date()) };
  });
}
