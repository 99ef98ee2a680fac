import type { Route } from "./+types/costs-csv.route";
import { costSpan } from "./cost-span.server";
import { costsCsv } from "./costs.server";

export async function loader({ request }: Route.LoaderArgs) {
  const { by, from, to } = await costSpan(new URL(request.url).searchParams, new Date());
  const headers = {
    "content-type": "text/csv; charset=utf-8",
    "content-disposition": `attachment; filename="costs-by-${by}.csv"`,
  };
  return new Response(await costsCsv(by, from, to), { headers });
}
