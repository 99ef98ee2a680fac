import { getDb } from "@db";
import type { InferType } from "yup";

import { UUID } from "~/kit/forms/fields";
import type { machineSearchSchema } from "~/kit/forms/search-schemas";

import type { MachineFilter } from "./machines.sql";
import { sitesCalled } from "./sites/sites-called.server";

/** Most sites that one text may mean in a list. */
const MOST_SITES = 50;

/** A list's address understood: a site by its id, as other pages link, or by what it is called. */
export async function machineFilter(
  query: InferType<typeof machineSearchSchema>,
): Promise<MachineFilter & { site: string | null }> {
  const { q = null, family = null, site = null, state = null, after = null } = query;
  const sites = site === null ? null : await sitesMeant(site);
  // A single site is called by its name, however it was asked for.
  const name = sites?.length === 1 && sites[0] ? sites[0].name : site;
  return { q, family, state, after, site: name, siteIds: sites?.map((one) => one.id) ?? null };
}

async function sitesMeant(site: string): Promise<readonly { id: string; name: string }[]> {
  return UUID.test(site)
    ? getDb().models.Site.findAll({ attributes: ["id", "name"], where: { id: site }, raw: true })
    : sitesCalled(site, MOST_SITES);
}
