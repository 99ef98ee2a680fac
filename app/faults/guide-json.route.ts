import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/guide-json.route";
import { guideView } from "./faults.server";

/** A guide in the open format, as it was written. */
export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const { guide } = await guideView(params.family);
    return new Response(JSON.stringify(guide, null, 2), {
      headers: {
        "Content-Type": "application/json",
        "Content-Disposition": `attachment; filename="${guide.family}-faults-${guide.version}.json"`,
      },
    });
  });
}
