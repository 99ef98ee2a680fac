import { Form } from "react-router";

import { inHours } from "~/kit/days/day-time";
import { inPercent } from "~/kit/in-percent";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";

import type { Route } from "./+types/week.route";
import type { WeekProposal } from "./propose-week.server";
import type { useProposal } from "./use-proposal";

type Data = Route.ComponentProps["loaderData"];

/** So many of those that found no place are named. */
const MOST_NAMED = 40;

/** What a proposal comes to, and the buttons to take it or leave it. */
export function ProposalBar({
  people,
  from,
  proposing,
  proposal,
  own: { state, propose, stop },
}: {
  people: Data["people"];
  from: Data["from"];
  /** Without the page's script. */
  proposing: boolean;
  proposal: WeekProposal | null;
  own: ReturnType<typeof useProposal>;
}) {
  if (people.length === 0) return null;
  const isWorking = proposing || state.kind === "working";
  return (
    <Form method="post" className="mb-2 flex flex-wrap items-center gap-3" aria-busy={isWorking}>
      <input type="hidden" name="from" value={from} />
      <button
        className="btn btn-main"
        name="intent"
        value="propose"
        disabled={isWorking}
        onClick={(event) => {
          event.preventDefault();
          propose();
        }}
      >
        {isWorking ? "Looking for the best week…" : "Propose the week"}
      </button>
      {state.kind === "working" && (
        <>
          <button type="button" className="btn" onClick={stop}>
            Stop
          </button>
          <div className="min-w-0 flex-1 basis-60">
            <p id="how-far" role="status" className="text-sm">
              {state.done === 0
                ? "Sharing the work out…"
                : `Planning each day as its own page does: ${state.done} of ${state.total}`}
            </p>
            <progress className="h-4 w-full" max={state.total} value={state.done} aria-labelledby="how-far" />
          </div>
        </>
      )}
      {state.kind === "failed" && <Notice tone="problem">{state.words}</Notice>}
      {proposal && (
        <>
          {proposal.days.map(({ person, day, stops }) => (
            <input
              key={`${person} ${day}`}
              type="hidden"
              name="route"
              value={[person, day, ...stops.flatMap((stop) => stop.duties.map((duty) => duty.id))].join(" ")}
            />
          ))}
          {proposal.days.length > 0 && (
            <button className="btn" name="intent" value="put">
              Put it on the days
            </button>
          )}
          <p role="status" className="text-sm">
            {proposal.considered - proposal.left.length} of {proposal.considered} duties find a place
            {proposal.held > 0 && ` (${proposal.held} more on machines that are out of use)`}. Each day is planned as on
            its own page and holds in at least <span className="figure">{inPercent(proposal.chance)}</span> of cases.
          </p>
          {proposal.days.length > 0 && (
            <p className="w-full text-sm text-ink-soft">
              On the way <span className="figure">{inHours(proposal.way.minutes)}</span> on these days: however their
              sites are shared out, ways between them come to no less than{" "}
              <span className="figure">{inHours(Math.ceil(proposal.way.least))}</span>. {lateWords(proposal.late)}
            </p>
          )}
        </>
      )}
    </Form>
  );
}

/** What of a proposal comes after its due day, and whether it could be otherwise. */
function lateWords({ duties, unavoidable }: WeekProposal["late"]): string {
  if (duties === 0) return "Nothing comes after its due day.";
  const some = `${duties} ${duties === 1 ? "duty comes" : "duties come"} after ${duties === 1 ? "its" : "their"} due day`;
  if (unavoidable === 0) return `${some}.`;
  return `${some}; ${unavoidable} of them could not come before it: the site is closed then, or nobody who may do it has hours.`;
}

/** What found no place, and why. */
export function NoPlace({ left }: { left: WeekProposal["left"] }) {
  if (left.length === 0) return null;
  return (
    <Section id="left" title={<>No place for {left.length}</>} panel className="mt-4">
      <ul className="mt-1 list-disc pl-5">
        {left.slice(0, MOST_NAMED).map(({ id, name, because }) => (
          <li key={id} className="wrap-anywhere">
            {name} <span className="text-ink-soft">– {because}</span>
          </li>
        ))}
        {left.length > MOST_NAMED && <li>and {left.length - MOST_NAMED} more</li>}
      </ul>
    </Section>
  );
}
