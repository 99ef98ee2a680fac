import { Link } from "react-router";

import { holdsOf } from "~/duties/holds.server";
import { dayInWords } from "~/kit/days/day-time";
import { served } from "~/kit/server/served.server";
import { useDay } from "~/ui/day";
import { SafetySign } from "~/ui/safety-sign";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/stop-tag.route";
import { machineHead } from "./machines.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Do not use: ${data.machine.name}`, "Tag") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const machine = await machineHead(params.machineId);
    return {
      machine,
      holds: (await holdsOf(machine.id)).filter((hold) => hold.clearedAt === null),
    };
  });
}

/** A tag for the machine itself: printed, it hangs where the machine is switched on. */
export default function StopTag({ loaderData }: Route.ComponentProps) {
  const { machine, holds } = loaderData;
  const dayOf = useDay();
  if (holds.length === 0)
    return (
      <p className="panel p-4">
        {machine.name} is in service: there is nothing to hang on it.{" "}
        <Link to={`/machines/${machine.id}`}>Back to the machine</Link>
      </p>
    );
  return (
    <>
      <p className="no-print mb-4 flex flex-wrap items-center gap-4">
        <Link to={`/machines/${machine.id}`}>Back to the machine</Link>
        <button type="button" className="btn btn-main" onClick={() => window.print()}>
          Print it
        </button>
      </p>
      <article className="mx-auto max-w-xl border-8 border-ink bg-surface p-6 text-center">
        <span className="inline-block">
          <SafetySign kind="lock-out" size={120} />
        </span>
        <h1 className="mt-3 text-4xl">Do not use</h1>
        <p className="mt-2 text-2xl font-bold wrap-anywhere">{machine.name}</p>
        <p className="text-lg">
          <span className="figure">{machine.tag}</span>, {machine.siteName}
          {machine.area && `, ${machine.area}`}
        </p>
        <ul className="mt-4 space-y-3 text-left">
          {holds.map((hold) => (
            <li key={hold.id} className="border-t-2 border-ink pt-2">
              <p className="text-lg font-semibold wrap-anywhere">{hold.reason}</p>
              <p>
                {hold.byName}, {dayInWords(dayOf(hold.since))}
              </p>
            </li>
          ))}
        </ul>
        <p className="mt-4 border-t-2 border-ink pt-2">
          Only who signs its return to service takes this tag off. A lock on the machine stays until then.
        </p>
      </article>
    </>
  );
}
