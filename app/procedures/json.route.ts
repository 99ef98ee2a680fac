import { served } from "~/kit/served.server";

import type { Route } from "./+types/json.route";
import { writtenVersion } from "./drafts.server";

/** A procedure in the open format, as it was written. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const version = Number(new URL(request.url).searchParams.get("version") ?? 0);
  const procedure = await served(writtenVersion(params.procedureId, Number.isInteger(version) && version > 0 ? version : null));
  return new Response(JSON.stringify(procedure, null, 2), {
    headers: { "Content-Type": "application/json", "Content-Disposition": `attachment; filename="${procedure.id}-${procedure.version}.json"` },
  });
}
