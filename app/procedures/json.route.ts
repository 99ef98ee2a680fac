import { terse } from "@core";

import { versionSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";

import type { Route } from "./+types/json.route";
import { writtenVersion } from "./drafts.server";

/** A procedure in the open format, as it was written. */
export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const { version = null } = readQuery(request, versionSchema);
    const procedure = await writtenVersion(params.procedureId, version);
    return new Response(JSON.stringify(terse(procedure), null, 2), {
      headers: {
        "Content-Type": "application/json",
        "Content-Disposition": `attachment; filename="${procedure.id}-${procedure.version}.json"`,
      },
    });
  });
}
