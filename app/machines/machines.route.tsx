import { Link, useNavigation } from "react-router";

import { machineSearchSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/machines.route";
import { machineFilter } from "./machine-filter.server";
import { MachineRows, MachineSearch } from "./machine-rows";
import { countMachines, listFamilies, listMachinesWithNext } from "./machines.server";

export const meta: Route.MetaFunction = () => [{ title: "Machines – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const filter = await machineFilter(readQuery(request, machineSearchSchema));
    const [page, families, total] = await Promise.all([
      listMachinesWithNext(filter, new Date()),
      listFamilies(),
      countMachines(),
    ]);
    return { ...page, filter, families, total };
  });
}

export default function Machines({ loaderData }: Route.ComponentProps) {
  const { rows, next, filter, families, total } = loaderData;
  const lead = useIsLead();
  const busy = useNavigation().state === "loading";
  const kept = Object.fromEntries(
    Object.entries({ q: filter.q, family: filter.family, site: filter.site, state: filter.state }).filter(
      ([, value]) => value,
    ),
  ) as Record<string, string>;
  return (
    <div aria-busy={busy}>
      <PageHead
        title="Machines"
        subtitle={
          <>
            <span className="figure">{total.toLocaleString("en")}</span> in the register
          </>
        }
      >
        <Link to="/machines/new" className="btn">
          Add a machine
        </Link>
        <Link to="/sites" className="btn">
          Sites
        </Link>
        {lead && (
          <Link to="/machines/import" className="btn">
            Import CSV
          </Link>
        )}
        {lead && (
          <Link to={`/machines/change?${new URLSearchParams(kept)}`} className="btn">
            Change many
          </Link>
        )}
        <Link to="/machines/practice" className="btn">
          Practice
        </Link>
        <Link to="/machines/faults" className="btn">
          Faults
        </Link>
        <Link to="/machines/wear" className="btn">
          Wear
        </Link>
        <Link to="/machines/readings" className="btn">
          Readings
        </Link>
        {lead && (
          <Link to="/machines/gateway" className="btn">
            Gateway
          </Link>
        )}
        <a href="/machines/export.csv" className="btn" download>
          Export CSV
        </a>
        <a href="/machines/export.json" className="btn" download>
          JSON
        </a>
      </PageHead>

      <MachineSearch filter={filter} families={families} />

      <MachineRows rows={rows} total={total} lead={lead} />
      <div className="mt-4 flex gap-2">
        {filter.after && (
          <Link to={`?${new URLSearchParams(kept)}`} className="btn">
            First page
          </Link>
        )}
        {next && (
          <Link to={`?${new URLSearchParams({ ...kept, after: next })}`} className="btn">
            Next 50
          </Link>
        )}
      </div>
    </div>
  );
}
