import { quantity } from "~/kit/quantity";

import type { Route } from "./+types/find-item.route";
import { listItems } from "./catalogue.server";
import type { FoundItems } from "./item-picker";

/** Items that begin like what is typed, for fields that choose one. */
export async function loader({ request }: Route.LoaderArgs): Promise<FoundItems> {
  const q = new URL(request.url).searchParams.get("q") ?? "";
  const { rows } = await listItems({ q, after: null, limit: 8 });
  return {
    items: rows.map((row) => ({
      id: row.id,
      name: row.name,
      note: `${quantity(row.onHand, row.unit)} in all${row.orderCode ? ` · ${row.orderCode}` : ""}`,
    })),
  };
}
