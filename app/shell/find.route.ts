import { machineOfTag } from "~/machines/tags.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/find.route";
import { findAnything } from "./find.server";

export async function loader({ request, context }: Route.LoaderArgs) {
  const q = new URL(request.url).searchParams.get("q") ?? "";
  const found = await findAnything(q, actorOf(context).role);
  // A scanned tag goes straight to its machine.
  return { q, found, exact: q.trim() === "" ? null : await machineOfTag(q) };
}
