import type { Route } from "./+types/photo.route";
import { readPhoto } from "./photos.server";
import { served } from "./served.server";

export async function loader({ params }: Route.LoaderArgs) {
  const photo = await served(readPhoto(params.photoId));
  return new Response(new Uint8Array(photo.bytes), {
    headers: {
      "Content-Type": photo.mime,
      "Cache-Control": "private, max-age=86400, immutable",
      "X-Content-Type-Options": "nosniff",
      "Content-Disposition": "inline",
    },
  });
}
