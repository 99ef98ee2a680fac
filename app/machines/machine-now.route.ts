import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/machine-now.route";
import { machineNow } from "./machine-now.server";

/** For pages that are open: what has changed on their machine. */
export function loader({ params }: Route.LoaderArgs) {
  return served(async () =>
    Response.json(await machineNow(params.machineId), { headers: { "Cache-Control": "no-store" } }),
  );
}
