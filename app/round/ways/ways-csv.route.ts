import { waysCsv } from "./ways-csv.server";

export async function loader() {
  return new Response(await waysCsv(), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="ways.csv"' },
  });
}
