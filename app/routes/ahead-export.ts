import { aheadCsv } from "~/services/ahead-export.server";
import { aheadFilter } from "~/shared/ahead-schemas";
import type { Route } from "./+types/ahead-export";

export async function loader({ request }: Route.LoaderArgs) {
  return new Response(await aheadCsv(aheadFilter(new URL(request.url).searchParams)), {
    headers: { "Content-Type": "text/csv; charset=utf-8", "Content-Disposition": 'attachment; filename="ahead.csv"', "Cache-Control": "no-store" },
  });
}
