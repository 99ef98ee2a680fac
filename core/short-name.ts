const MOST_LETTERS = 60;

/** Words as a short name of the format: small letters, digits and hyphens, at most 60; empty when there is none of them. */
export function shortName(words: string): string {
  return words
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, MOST_LETTERS)
    .replace(/-+$/, "");
}

/** A short name that nothing has yet: with the next number behind it where something does. */
export function freeName(wanted: string, taken: ReadonlySet<unknown>): string {
  if (!taken.has(wanted)) return wanted;
  for (let n = 2; ; n++) if (!taken.has(`${wanted}-${n}`)) return `${wanted}-${n}`;
}

/** A short name in words. */
export const inWords = (name: string): string => name.replaceAll("-", " ");
