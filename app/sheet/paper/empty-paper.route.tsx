import { Link } from "react-router";

import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { getMachine } from "~/machines/machines.server";
import { getProcedure } from "~/procedures/procedures.server";
import { machineOfPaperSchema } from "~/sheet/sheet-schemas";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/empty-paper.route";
import { PaperPage } from "./paper-page";
import { stepsOnPaper } from "./paper-words";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Paper sheet: ${data.procedure.title}`, "Paper sheet") },
];

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const machineId = readQuery(request, machineOfPaperSchema).machine;
    const procedure = await getProcedure(params.procedureId);
    if (!machineId) return { procedure, machine: null };
    const { machine, site } = await getMachine(machineId);
    const { name, tag, area, serial, options } = machine;
    // What this machine does not have is no line on its paper.
    const steps = stepsOnPaper(procedure, options);
    return {
      procedure: { ...procedure, steps },
      machine: { name, tag, area, serial, siteName: site.name, tagSrc: `/machines/${machineId}/tag.svg` },
    };
  });
}

export default function Paper({ loaderData }: Route.ComponentProps) {
  const { procedure, machine } = loaderData;
  return (
    <>
      <div className="no-print mb-4 flex flex-wrap items-center justify-between gap-3">
        <Link to={`/book/procedures/${procedure.id}`}>{procedure.title}</Link>
        <button type="button" className="btn btn-main" onClick={() => window.print()}>
          Print
        </button>
      </div>
      <PaperPage procedure={procedure} machine={machine} />
    </>
  );
}
