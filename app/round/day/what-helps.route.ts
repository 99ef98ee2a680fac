import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/what-helps.route";
import { whatHelps } from "./what-helps.server";

/** What would make one's own day hold today: asked for where something of it is in danger. */
export function loader({ context }: Route.LoaderArgs) {
  return served(async () => ({ changes: await whatHelps(actorOf(context), new Date()) }));
}
