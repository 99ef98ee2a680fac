import { served } from "~/kit/served.server";

import type { Route } from "./+types/order-csv.route";
import { orderCsv } from "./orders.server";

export async function loader({ params }: Route.LoaderArgs) {
  const headers = {
    "content-type": "text/csv; charset=utf-8",
    "content-disposition": 'attachment; filename="order.csv"',
  };
  return new Response(await served(orderCsv(params.orderId)), { headers });
}
