import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/costs-csv.route";
import { costSpan } from "./cost-span.server";
import { costsCsv } from "./costs.server";

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { by, from, to } = await costSpan(request, new Date());
    const headers = {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="costs-by-${by}.csv"`,
    };
    return new Response(await costsCsv(by, from, to), { headers });
  });
}
