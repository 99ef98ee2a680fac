import { distance } from "fastest-levenshtein";

import { familyName } from "~/ui/family-names";

/** A name is taken for a slip of another when so many letters, of three, are right. */
const SLIPS = 1 / 3;

const plain = (text: string): string =>
  text
    .toLowerCase()
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .replace(/[^a-z0-9]+/g, " ")
    .trim();

/**
 * The family that somebody means by a short name or by what people call it.
 *
 * @param known short names of the families there are
 * @returns the family; or, when it is none of them, the one it comes nearest to, and the short name it would get as a new one
 */
export function familyMeant(
  text: string,
  known: readonly string[],
): { family: string } | { family: null; nearest: string | null; own: string } {
  const said = plain(text);
  const named = known.flatMap((family) => [
    { family, name: plain(family) },
    { family, name: plain(familyName(family)) },
  ]);
  const exact = named.find((one) => one.name === said);
  if (exact) return { family: exact.family };
  // Part of a name that only one family has: "toaster", "sweeper".
  const parts = new Set(named.filter((one) => said.length >= 4 && one.name.includes(said)).map((one) => one.family));
  const [only] = parts;
  const near = named
    .map((one) => ({ ...one, slips: distance(one.name, said) }))
    .filter((one) => one.slips <= Math.max(one.name.length, said.length) * SLIPS)
    .sort((a, b) => a.slips - b.slips)[0];
  const nearest = (parts.size === 1 ? only : undefined) ?? near?.family ?? null;
  return { family: null, nearest, own: said.replaceAll(" ", "-").slice(0, 60).replace(/-+$/, "") };
}
