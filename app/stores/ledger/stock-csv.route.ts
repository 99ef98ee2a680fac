import { stockCsv } from "./stock-csv.server";

export async function loader() {
  return new Response(await stockCsv(), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="stock.csv"' },
  });
}
