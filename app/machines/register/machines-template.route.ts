import { served } from "~/kit/server/served.server";

import { machinesTemplate } from "./machines-template.server";

/** A file to fill in: the columns, and a row that shows how. */
export function loader() {
  return served(() =>
    Promise.resolve(
      new Response(machinesTemplate(), {
        headers: {
          "Content-Type": "text/csv; charset=utf-8",
          "Content-Disposition": 'attachment; filename="machines-to-fill-in.csv"',
        },
      }),
    ),
  );
}
