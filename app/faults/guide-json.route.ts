import { Refusal } from "~/kit/refusal";
import { served } from "~/kit/server/served.server";
import { guideOf } from "~/procedures/guides/guides.server";

import type { Route } from "./+types/guide-json.route";

/** A guide in the open format, as it was written. */
export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const guide = await guideOf(params.family);
    if (!guide) throw new Refusal(404, "no-such-guide", "There is no fault guide for this family.");
    return new Response(JSON.stringify(guide, null, 2), {
      headers: {
        "Content-Type": "application/json",
        "Content-Disposition": `attachment; filename="${guide.family}-faults-${guide.version}.json"`,
      },
    });
  });
}
