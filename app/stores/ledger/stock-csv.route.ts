import { served } from "~/kit/server/served.server";

import { stockCsv } from "./stock-csv.server";

export function loader() {
  return served(async () => {
    return new Response(await stockCsv(), {
      headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="stock.csv"' },
    });
  });
}
