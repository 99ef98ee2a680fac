import { served } from "~/kit/server/served.server";

import { stockTemplate } from "./stock-csv.server";

/** A file to fill in: the columns, and a row that shows how. */
export function loader() {
  return served(() =>
    Promise.resolve(
      new Response(stockTemplate(), {
        headers: {
          "Content-Type": "text/csv; charset=utf-8",
          "Content-Disposition": 'attachment; filename="stock-to-fill-in.csv"',
        },
      }),
    ),
  );
}
