import { firmDay } from "~/kit/days/firm-day.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/found-csv.route";
import { foundCsv, foundTable } from "./found.server";
import { foundSearchSchema } from "./interval-schemas";

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const { procedure } = readQuery(request, foundSearchSchema);
    const table = await foundTable(procedure ?? null, (await firmDay(now)).on, now);
    return new Response(foundCsv(table), {
      headers: {
        "content-type": "text/csv; charset=utf-8",
        "content-disposition": 'attachment; filename="found.csv"',
      },
    });
  });
}
