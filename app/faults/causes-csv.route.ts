import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/causes-csv.route";
import { causesCsv } from "./faults.server";

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const headers = {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="causes-of-${params.family}.csv"`,
    };
    return new Response(await causesCsv(params.family), { headers });
  });
}
