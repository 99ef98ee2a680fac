import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/wear-csv.route";
import { wearFilter } from "./wear-filter.server";
import { wearCsv } from "./wear-list.server";
import { wearSearchSchema } from "./wear-schemas";

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { filter } = await wearFilter(readQuery(request, wearSearchSchema));
    return new Response(await wearCsv(filter, new Date()), {
      headers: {
        "content-type": "text/csv; charset=utf-8",
        "content-disposition": 'attachment; filename="wear.csv"',
      },
    });
  });
}
