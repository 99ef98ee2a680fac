import { quantity } from "~/kit/forms/quantity";
import { wordsSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/find-item.route";
import { listItems } from "./catalogue.server";
import type { FoundItems } from "./use-found-items";

/** Items that begin like what is typed, for fields that choose one. */
export function loader({ request }: Route.LoaderArgs): Promise<FoundItems> {
  return served(async () => {
    const q = readQuery(request, wordsSchema).q ?? "";
    const { rows } = await listItems({ q, after: null, limit: 8 });
    return {
      items: rows.map((row) => ({
        id: row.id,
        name: row.name,
        unit: row.unit,
        scanCode: row.scanCode,
        note: `${quantity(row.onHand, row.unit)} in all${row.orderCode ? ` · ${row.orderCode}` : ""}`,
      })),
    };
  });
}
