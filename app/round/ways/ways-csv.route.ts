import { served } from "~/kit/server/served.server";

import { waysCsv } from "./ways-csv.server";

export function loader() {
  return served(async () => {
    return new Response(await waysCsv(), {
      headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="ways.csv"' },
    });
  });
}
