import { getDb, type SiteRow } from "@db";

import { Refusal } from "~/kit/refusal";

import * as sql from "./adding.sql";

/** How a site is written in a field that is filled with one: its name, and its customer's behind it. */
export const siteText = (site: { name: string; customerName: string }): string => `${site.name}, ${site.customerName}`;

/** More sites are typed, not scrolled through. */
const MOST_SITES = 500;

/** Sites for a field that is filled with one. */
export async function siteTexts(): Promise<string[]> {
  return (await sql.sitesMeant("", MOST_SITES)).map(siteText);
}

/**
 * The site that somebody typed or chose: by its name, with or without its customer's, whole or by its beginning.
 *
 * @throws Refusal beside the field `site` when none is meant, or more than one
 */
export async function siteMeant(text: string): Promise<SiteRow> {
  const found = await sql.sitesMeant(text);
  const exact = found.filter((one) =>
    [siteText(one), one.name].some((name) => name.toLowerCase() === text.toLowerCase()),
  );
  const meant = exact.length > 0 ? exact : found;
  const [only, another] = meant;
  if (!only) throw new Refusal(422, "site", `No site begins like “${text}”. Add it first, or choose one of the list.`);
  if (another)
    throw new Refusal(
      422,
      "site",
      `“${text}” is more than one site: ${meant
        .slice(0, 3)
        .map((one) => `“${siteText(one)}”`)
        .join(", ")}${meant.length > 3 ? " …" : ""}. Write it with the customer's name.`,
    );
  const site = await getDb().models.Site.findByPk(only.id, { raw: true });
  if (!site) throw new Refusal(422, "site", "This site is gone. Choose another one.");
  return site;
}
