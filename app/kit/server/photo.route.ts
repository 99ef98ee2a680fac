import type { Route } from "./+types/photo.route";
import { readPhoto } from "./photos.server";
import { served } from "./served.server";

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const photo = await readPhoto(params.photoId);
    return new Response(new Uint8Array(photo.bytes), {
      headers: {
        "Content-Type": photo.mime,
        "Cache-Control": "private, max-age=86400, immutable",
        "X-Content-Type-Options": "nosniff",
        "Content-Disposition": "inline",
      },
    });
  });
}
