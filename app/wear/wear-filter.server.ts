import type { InferType } from "yup";

import { machineFilter } from "~/machines/machine-filter.server";

import type { WearFilter } from "./wear-list.server";
import type { wearSearchSchema } from "./wear-schemas";

/** The list's address understood. */
export async function wearFilter(
  query: InferType<typeof wearSearchSchema>,
): Promise<{ filter: WearFilter; site: string | null }> {
  const { site, siteIds, family } = await machineFilter({ ...query, q: undefined, state: undefined });
  return { filter: { siteIds: siteIds ?? null, family: family ?? null, now: query.show === "now" }, site };
}
