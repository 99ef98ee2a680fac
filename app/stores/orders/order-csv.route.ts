import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/order-csv.route";
import { orderCsv } from "./orders.server";

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const headers = {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": 'attachment; filename="order.csv"',
    };
    return new Response(await orderCsv(params.orderId), { headers });
  });
}
