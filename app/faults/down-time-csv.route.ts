import { served } from "~/kit/server/served.server";
import { costSpan } from "~/stores/costs/cost-span.server";

import type { Route } from "./+types/down-time-csv.route";
import { causesFoundCsv, downCsv } from "./down-time.server";

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const { by, from, to } = await costSpan(request, now);
    const isCauses = params.what === "causes";
    const text = isCauses ? await causesFoundCsv(from, to) : await downCsv(by, from, to, now);
    const headers = {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="${isCauses ? "causes" : `down-time-by-${by}`}.csv"`,
    };
    return new Response(text, { headers });
  });
}
