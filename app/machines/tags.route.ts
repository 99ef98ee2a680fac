import { served } from "~/kit/served.server";

import type { Route } from "./+types/tags.route";
import { tagSheet } from "./tags.server";

export async function loader({ request }: Route.LoaderArgs) {
  const url = new URL(request.url);
  const pdf = await served(tagSheet(url.origin, { siteId: url.searchParams.get("site") }));
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": 'inline; filename="tags.pdf"',
      "Cache-Control": "no-store",
    },
  });
}
