import { addDays } from "@core";

import { firmDay } from "~/kit/days/firm-day.server";
import { readQuery } from "~/kit/server/read-query.server";
import { costSearchSchema } from "~/stores/items/stores-schemas";

import type { CostBy } from "./costs.server";

/** Span and grouping of a costs view from its address; the last year by site when nothing is said. */
export async function costSpan(request: Request, now: Date): Promise<{ by: CostBy; from: string; to: string }> {
  const { on: today } = await firmDay(now);
  const { by = "site", to = today, from = addDays(to, -365) } = readQuery(request, costSearchSchema);
  return { by, from, to };
}
