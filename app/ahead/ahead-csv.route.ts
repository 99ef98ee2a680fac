import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/ahead-csv.route";
import { aheadCsv } from "./ahead-export.server";
import { aheadFilter } from "./ahead-schemas";

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    return new Response(await aheadCsv(aheadFilter(new URL(request.url).searchParams)), {
      headers: {
        "Content-Type": "text/csv; charset=utf-8",
        "Content-Disposition": 'attachment; filename="ahead.csv"',
        "Cache-Control": "no-store",
      },
    });
  });
}
