import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/tag-svg.route";
import { taggedMachine, tagSvg } from "./tags.server";

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const { tag } = await taggedMachine(params.machineId);
    const image = await tagSvg(new URL(request.url).origin, tag);
    return new Response(image as BodyInit, {
      headers: { "Content-Type": "image/svg+xml", "Cache-Control": "private, max-age=3600" },
    });
  });
}
