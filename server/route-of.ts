const MOST_PARTS = 4;

/** A path as one of a few kinds: what is different for each machine, person or link is not told apart. */
export function routeOf(path: string): string {
  const parts = path
    .replace(/\.data$/u, "")
    .split("/")
    .filter((part) => part !== "")
    .slice(0, MOST_PARTS);
  // What follows these is a name or a secret, whatever it looks like.
  const named = new Set(["o", "calendar", "t", "items", "assets"]);
  const kinds = parts.map((part, i) => (named.has(parts[i - 1] ?? "") || !/^[a-z][a-z-]*$/u.test(part) ? ":id" : part));
  return `/${kinds.join("/")}`;
}
