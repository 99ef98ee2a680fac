import { machineSearchSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/tags.route";
import { tagSheet } from "./tags.server";

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { site } = readQuery(request, machineSearchSchema);
    const pdf = await tagSheet(new URL(request.url).origin, { siteId: site ?? null });
    return new Response(new Uint8Array(pdf), {
      headers: {
        "Content-Type": "application/pdf",
        "Content-Disposition": 'inline; filename="tags.pdf"',
        "Cache-Control": "no-store",
      },
    });
  });
}
