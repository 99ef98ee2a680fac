import { Form, Link } from "react-router";

import type { Route } from "./+types/machines.route";
import { SiteAndFamily } from "./filter-fields";
import { MachineList } from "./machine-list";

type Data = Route.ComponentProps["loaderData"];

/** Machines found; why there are none. */
export function MachineRows({ rows, total, lead }: { rows: Data["rows"]; total: Data["total"]; lead: boolean }) {
  return rows.length === 0 ? (
    <div className="panel p-6">
      {total === 0 ? (
        <>
          <p className="text-lg font-semibold">The register is empty.</p>
          <p className="mt-1">
            <Link to="/sites/new">Add the first site</Link>, then its machines
            {lead && (
              <>
                {" "}
                – or <Link to="/machines/import">import a file</Link>, one line a machine
              </>
            )}
            .
          </p>
        </>
      ) : (
        <>
          <p className="text-lg font-semibold">No machine matches.</p>
          <p className="mt-1">
            Try the beginning of a word, or <Link to="/machines">show all</Link>.
          </p>
        </>
      )}
    </div>
  ) : (
    <MachineList rows={rows} />
  );
}

export function MachineSearch({ filter, families }: { filter: Data["filter"]; families: Data["families"] }) {
  return (
    <Form method="get" role="search" key={`${filter.q} ${filter.site}`} className="mb-4 flex flex-wrap items-end gap-2">
      <div className="min-w-52 flex-1">
        <label htmlFor="q" className="block text-sm font-semibold">
          Name, tag, serial, maker or site
        </label>
        <input id="q" name="q" type="search" className="field" defaultValue={filter.q ?? ""} />
      </div>
      <SiteAndFamily site={filter.site} family={filter.family} families={families} />
      <div>
        <label htmlFor="state" className="block text-sm font-semibold">
          State
        </label>
        <select id="state" name="state" className="field" defaultValue={filter.state ?? ""}>
          <option value="">In the register</option>
          <option value="stopped">Out of service</option>
          <option value="left-open">Something left open</option>
          <option value="to-check">Added on the spot</option>
          <option value="taken-out">Taken out</option>
        </select>
      </div>
      <button className="btn btn-main">Find</button>
    </Form>
  );
}
