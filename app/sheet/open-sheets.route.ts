import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/open-sheets.route";
import { openSheetsOf } from "./open-sheets.server";

/** The sheets in the signed-in person's hands, for the clocks that every page shows. */
export function loader({ context }: Route.LoaderArgs) {
  return served(async () => {
    return Response.json(
      { sheets: await openSheetsOf(actorOf(context).id) },
      { headers: { "Cache-Control": "no-store" } },
    );
  });
}
