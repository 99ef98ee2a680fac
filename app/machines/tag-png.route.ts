import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/tag-png.route";
import { taggedMachine, tagPng } from "./tags.server";

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const { tag } = await taggedMachine(params.machineId);
    const image = await tagPng(new URL(request.url).origin, tag);
    return new Response(image as BodyInit, {
      headers: { "Content-Type": "image/png", "Cache-Control": "private, max-age=3600" },
    });
  });
}
