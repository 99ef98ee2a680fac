import { firmDay } from "~/kit/days/firm-day.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/found-csv.route";
import { foundCsv } from "./found.server";
import { foundSearchSchema } from "./interval-schemas";

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { procedure } = readQuery(request, foundSearchSchema);
    return new Response(await foundCsv(procedure ?? null, (await firmDay(new Date())).on), {
      headers: {
        "content-type": "text/csv; charset=utf-8",
        "content-disposition": 'attachment; filename="found.csv"',
      },
    });
  });
}
