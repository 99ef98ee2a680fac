import { served } from "~/kit/served.server";

import type { Route } from "./+types/tag-svg.route";
import { taggedMachine, tagSvg } from "./tags.server";

export async function loader({ params, request }: Route.LoaderArgs) {
  const { tag } = await served(taggedMachine(params.machineId));
  const image = await tagSvg(new URL(request.url).origin, tag);
  return new Response(image as BodyInit, {
    headers: { "Content-Type": "image/svg+xml", "Cache-Control": "private, max-age=3600" },
  });
}
