import { Link } from "react-router";

import { OnDay } from "~/ui/day";

import type { AheadSite } from "./ahead.server";

/** Everything the grid shows as plain rows: for screen readers, for print, for reading one by one. */
export function AheadTable({ sites, names }: { sites: readonly AheadSite[]; names: ReadonlyMap<string, string> }) {
  return (
    <div className="panel overflow-x-auto p-3">
      <table className="table-plain text-sm">
        <caption className="sr-only">Next duties by site</caption>
        <thead>
          <tr>
            <th scope="col">Site</th>
            <th scope="col">Duty</th>
            <th scope="col">Machine</th>
            <th scope="col">Due</th>
            <th scope="col">On the day</th>
            <th scope="col">For</th>
            <th scope="col">Hands-on</th>
          </tr>
        </thead>
        <tbody>
          {sites.flatMap((site) =>
            site.duties.map((duty) => (
              <tr key={duty.dutyId}>
                <td>{site.name}</td>
                <td>
                  <Link to={`/duties/${duty.dutyId}`}>{duty.title}</Link>
                </td>
                <td>
                  {duty.machineName} <span className="figure">{duty.machineTag}</span>
                  {duty.outOfService && <strong className="block">! Out of service</strong>}
                </td>
                <td className="figure whitespace-nowrap">
                  <OnDay on={duty.dueOn} />
                  {duty.projected && " (forecast)"}
                </td>
                <td className="figure whitespace-nowrap">
                  {duty.plannedOn === null ? "–" : <OnDay on={duty.plannedOn} />}
                </td>
                <td>{duty.plannedFor ? (names.get(duty.plannedFor) ?? "") : "–"}</td>
                <td className="figure whitespace-nowrap">{duty.handsOn} min</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </div>
  );
}
