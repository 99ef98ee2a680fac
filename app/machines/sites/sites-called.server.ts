import { exactFirst } from "~/kit/exact-first";
import { likeText } from "~/kit/server/like-text.server";

import * as sql from "./sites-called.sql";

type Called = readonly { id: string; name: string }[];

/** Sites that have a word beginning so in their name; those that are called exactly so before all others. */
export async function sitesCalled(text: string, most: number): Promise<Called> {
  return exactFirst(await sql.sitesLike(`% ${likeText(text)}%`, most), text, (row) => row.name);
}

/** {@link sitesCalled}, of customers. */
export async function customersCalled(text: string, most: number): Promise<Called> {
  return exactFirst(await sql.customersLike(`% ${likeText(text)}%`, most), text, (row) => row.name);
}
