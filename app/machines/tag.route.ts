import { redirect } from "react-router";

import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/tag.route";
import { machineOfTag } from "./tags.server";

/** Where a scanned tag leads. */
export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const machineId = await machineOfTag(params.tag);
    if (!machineId)
      // Who stands before a machine that nobody knows adds it.
      return redirect(`/machines/new?${new URLSearchParams({ tag: params.tag.trim().slice(0, 32) })}`);
    return redirect(`/machines/${machineId}`);
  });
}
