import { likeText } from "~/kit/server/like-text.server";

import * as sql from "./sites-called.sql";

/** Sites that have a word beginning so in their name; those that are called exactly so before all others. */
export async function sitesCalled(text: string, most: number): Promise<{ id: string; name: string }[]> {
  const found = await sql.sitesLike(`% ${likeText(text)}%`, most);
  const exact = found.filter((row) => row.name.toLowerCase() === text.trim().toLowerCase());
  return exact.length > 0 ? exact : found;
}
