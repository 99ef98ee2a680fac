import { served } from "~/kit/server/served.server";

import { readingsTemplate } from "./meter-csv.server";

/** A file to fill in: the columns, and a row that shows how. */
export function loader() {
  return served(() =>
    Promise.resolve(
      new Response(readingsTemplate(), {
        headers: {
          "Content-Type": "text/csv; charset=utf-8",
          "Content-Disposition": 'attachment; filename="readings-to-fill-in.csv"',
        },
      }),
    ),
  );
}
