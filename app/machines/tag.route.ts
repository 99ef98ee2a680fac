import { redirect } from "react-router";

import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/tag.route";
import { machineOfTag } from "./tags.server";

/** Where a scanned tag leads. */
export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const machineId = await machineOfTag(params.tag);
    if (!machineId)
      throw new Response(
        `No machine in the register has the tag ${params.tag.slice(0, 32)}. A lead can import or rename it.`,
        { status: 404 },
      );
    return redirect(`/machines/${machineId}`);
  });
}
