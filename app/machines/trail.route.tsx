import { Link } from "react-router";

import { served } from "~/kit/server/served.server";
import { OnDay } from "~/ui/day";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/trail.route";
import { getMachine } from "./machines.server";
import { machineTrail, type TrailKind } from "./trail.server";
import { TrailLine } from "./trail-line";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Trail of ${data.machine.name}`, "Trail of a machine") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const { machine, site } = await getMachine(params.machineId);
    return {
      machine: { id: machine.id, name: machine.name, tag: machine.tag },
      siteName: site.name,
      trail: await machineTrail(params.machineId),
      now: Date.now(),
    };
  });
}

const KIND_NAMES: Record<TrailKind, string> = {
  service: "Service",
  operator: "Operator",
  part: "Part",
  fault: "Fault",
  meter: "Meter",
  change: "Change",
};

export default function MachineTrail({ loaderData }: Route.ComponentProps) {
  const { machine, siteName, trail, now } = loaderData;
  const newest = [...trail.items].reverse();
  return (
    <>
      <PageHead
        back={
          <>
            <Link to={`/machines/${machine.id}`}>{machine.name}</Link>
          </>
        }
        title={<>Trail of {machine.name}</>}
        subtitle={
          <>
            <span className="figure">{machine.tag}</span>, {siteName}
          </>
        }
      />
      {trail.items.length === 0 && trail.series.length === 0 ? (
        <p className="panel p-6">Nothing has happened yet. Its first service, reading or part will stand here.</p>
      ) : (
        <>
          <div className="panel overflow-x-auto p-4" tabIndex={0} role="region" aria-label="Line of time">
            <TrailLine trail={trail} now={now} />
          </div>
          <Section id="words" title="In words, the newest first" panel className="mt-5 overflow-x-auto">
            <table className="table-plain text-sm">
              <thead>
                <tr>
                  <th scope="col">Day</th>
                  <th scope="col">What</th>
                  <th scope="col">Details</th>
                </tr>
              </thead>
              <tbody>
                {newest.map((item, i) => (
                  <tr key={i}>
                    <td className="whitespace-nowrap">
                      <OnDay on={item.on} />
                    </td>
                    <td>{KIND_NAMES[item.kind]}</td>
                    <td className="wrap-anywhere">
                      {item.href ? <Link to={item.href}>{item.title}</Link> : item.title}
                      {item.text && <span className="text-ink-soft"> {item.text}</span>}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Section>
        </>
      )}
    </>
  );
}
