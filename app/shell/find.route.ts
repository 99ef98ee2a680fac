import { wordsSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { machineOfTag } from "~/machines/tags.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/find.route";
import { findAnything } from "./find.server";

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const q = readQuery(request, wordsSchema).q ?? "";
    const found = await findAnything(q, actorOf(context).role);
    // A scanned tag goes straight to its machine.
    return { q, found, exact: q.trim() === "" ? null : await machineOfTag(q) };
  });
}
