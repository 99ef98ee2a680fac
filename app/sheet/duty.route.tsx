import { Form, Link, redirect } from "react-router";

import { getDuty } from "~/duties/due.server";
import { LeadMark, leadWords } from "~/duties/lead-mark";
import { whyNotWork } from "~/kit/actor";
import { outcomeName } from "~/kit/outcomes";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { useIsLead } from "~/people/use-me";
import { getProcedure } from "~/procedures/procedures.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { SubmitButton } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { SafetySign } from "~/ui/safety-sign";
import { Why } from "~/ui/why";

import type { Route } from "./+types/duty.route";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.row.title ?? "Duty"} – Humble Hound` },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const duty = await getDuty(params.dutyId, new Date());
    if (!duty) throw new Response("This duty does not exist. Go back to the round.", { status: 404 });
    const procedure = await getProcedure(duty.duty.procedureId);
    return { ...duty, procedure, notAllowed: whyNotWork(actorOf(context), duty.duty, duty.row.today) };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    open: form(NOTHING, async (_, who, now) =>
      redirect(`/sheet/${await openSheet(who, args.params.dutyId, "browser", now)}`),
    ),
  });
}

export default function Duty({ loaderData, actionData }: Route.ComponentProps) {
  const { row, assessed, procedure, notAllowed } = loaderData;
  const lead = useIsLead();
  return (
    <div className="grid gap-6 lg:grid-cols-[1fr_20rem]">
      <div>
        <p className="text-sm">
          <Link to="/round">Round</Link> · <Link to={`/machines/${row.machineId}`}>{row.machineName}</Link>
        </p>
        <h1 className="mt-1 text-2xl">{row.title}</h1>
        <p className="text-ink-soft">
          {row.machineName} <span className="figure">{row.machineTag}</span>, {row.siteName}
          {row.area && `, ${row.area}`}
        </p>

        <div className="panel mt-4 p-4">
          <div className="flex flex-wrap items-center gap-5">
            <LeadMark
              state={row.state}
              anchorOn={row.anchorOn}
              dueOn={row.dueOn}
              today={row.today}
              rivals={row.rivals}
              hardStop={row.hardStop}
              width={220}
            />
            <p className="text-lg font-semibold">
              {leadWords(row.state, row.dueOn, row.today)}
              {row.dueOn && <span className="figure block text-sm font-normal text-ink-soft">{row.dueOn}</span>}
            </p>
          </div>
          <div className="mt-3 flex flex-wrap items-start justify-between gap-x-5">
            <Why because={assessed.because} summary="Why this day?" />
            {lead && (
              <Link to={`/duties/${row.dutyId}/rules`} className="inline-block min-h-8 text-sm">
                Change the rules
              </Link>
            )}
          </div>
          {row.plannedOn && (
            <p className="mt-2 text-sm">
              Put on <span className="figure">{row.plannedOn}</span>
              {row.plannedForName && ` for ${row.plannedForName}`}
            </p>
          )}
        </div>

        {row.outOfService && (
          <div className="mt-4">
            <Notice tone="problem" title="Machine out of service">
              An unsafe finding is open. A lead returns it to service on{" "}
              <Link to={`/machines/${row.machineId}`}>the machine&apos;s page</Link>.
            </Notice>
          </div>
        )}
        {row.lastOutcome && (
          <div className="mt-4">
            <Notice title={`Still due: ${outcomeName(row.lastOutcome.outcome).toLowerCase()} last time`}>
              {row.lastOutcome.reason}{" "}
              <span className="figure text-sm text-ink-soft">({row.lastOutcome.at.slice(0, 10)})</span>
            </Notice>
          </div>
        )}
        {actionData?.message && (
          <div className="mt-4">
            <Notice tone="problem">{actionData.message}</Notice>
          </div>
        )}

        <Form method="post" className="mt-5">
          {notAllowed ? (
            <Notice title="Not for you to work">{notAllowed}</Notice>
          ) : (
            <SubmitButton big>{row.openSheetId ? "Go on with the open sheet" : "Open the sheet"}</SubmitButton>
          )}
        </Form>

        {row.who !== "operator" && (
          <Form method="post" action="/round/day" className="mt-3">
            <input type="hidden" name="duty" value={row.dutyId} />
            <button className="btn" name="intent" value="put-on">
              Put it on my day
            </button>
          </Form>
        )}
        <p className="mt-4 flex flex-wrap gap-x-5">
          <Link
            to={`/book/procedures/${procedure.id}/paper?machine=${row.machineId}`}
            className="inline-block min-h-11 py-2"
          >
            Paper sheet
          </Link>
          <Link to={`/practice/${procedure.id}`} className="inline-block min-h-11 py-2">
            Practise it
          </Link>
        </p>
        <p className="mt-3 max-w-prose">{procedure.summary}</p>
      </div>

      <aside className="space-y-5">
        <section aria-labelledby="watch">
          <h2 id="watch" className="mb-2 text-lg">
            Watch out
          </h2>
          <ul className="space-y-2">
            {procedure.hazards.map((hazard) => (
              <li key={hazard.text} className="flex gap-3">
                <SafetySign kind={hazard.kind} />
                <span>{hazard.text}</span>
              </li>
            ))}
          </ul>
        </section>
        <Listing title="Wear" items={procedure.protective} />
        <Listing title="Tools" items={procedure.tools} />
        <Listing title="Materials" items={procedure.materials.map((one) => `${one.name}, ${one.qty} ${one.unit}`)} />
        <Listing
          title="Parts, if worn"
          items={procedure.parts.map(
            (one) =>
              `${one.name}${one.slots.length > 1 ? ` × ${one.slots.length}` : ""}${one.pair ? ", as a pair" : ""}`,
          )}
        />
        <p className="text-sm text-ink-soft">
          Hands-on <span className="figure">{procedure.minutes.handsOn} min</span>, waiting{" "}
          <span className="figure">{procedure.minutes.waiting} min</span>, typical. The maker&apos;s manual and local
          rules come first.
        </p>
      </aside>
    </div>
  );
}

function Listing({ title, items }: { title: string; items: string[] }) {
  if (items.length === 0) return null;
  return (
    <section>
      <h2 className="mb-1 text-lg">{title}</h2>
      <ul className="list-disc pl-5">
        {items.map((item) => (
          <li key={item}>{item}</li>
        ))}
      </ul>
    </section>
  );
}
