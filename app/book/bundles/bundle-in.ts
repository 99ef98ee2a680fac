import { asQuery, narrowedSchema } from "~/book/search/search-schema";

/** What a bundle was asked for, as it was kept: an older version may have kept less. */
export function bundleIn(what: unknown): { said: string[]; counted: string; again: Record<string, string> } {
  const { said, counted, narrowed } = (what ?? {}) as { said?: string[]; counted?: string; narrowed?: unknown };
  const again = narrowedSchema.isValidSync(narrowed) ? asQuery(narrowedSchema.cast(narrowed)) : {};
  return { said: said ?? [], counted: counted ?? "", again };
}
