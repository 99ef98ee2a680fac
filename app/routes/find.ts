import { findAnything } from "~/services/find.server";
import { machineOfTag } from "~/services/tags.server";
import { actorOf } from "~/session.server";
import type { Route } from "./+types/find";

export async function loader({ request, context }: Route.LoaderArgs) {
  const q = new URL(request.url).searchParams.get("q") ?? "";
  const found = await findAnything(q, actorOf(context).role);
  // A scanned tag goes straight to its machine.
  return { q, found, exact: q.trim() === "" ? null : await machineOfTag(q) };
}
