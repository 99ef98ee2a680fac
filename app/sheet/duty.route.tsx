import { Form, Link, redirect } from "react-router";

import { getDuty } from "~/duties/due.server";
import { isGeneral, isRepair } from "~/duties/general-procedures";
import { LeftList } from "~/duties/left/left-list";
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
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";
import { FoundHistory } from "~/wear/intervals/found-history";
import { findingsOfDuty } from "~/wear/intervals/list-intervals.server";

import type { Route } from "./+types/duty.route";
import { BeforeBeginning, WhenDue } from "./duty-parts";
import { aboutPath } from "./found-here";
import { BeforeStartCard } from "./left/before-start";
import { beforeStart } from "./left/before-start.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.row.title, "Duty") },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const duty = await getDuty(params.dutyId, new Date());
    if (!duty) throw new Response("This duty does not exist. Go back to the round.", { status: 404 });
    const [procedure, before, history] = await Promise.all([
      getProcedure(duty.duty.procedureId),
      beforeStart(duty.row.machineId, null, new Date()),
      findingsOfDuty(params.dutyId),
    ]);
    return { ...duty, procedure, before, history, notAllowed: whyNotWork(actorOf(context), duty.duty, duty.row.today) };
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
  const { row, duty, assessed, procedure, before, history, notAllowed } = loaderData;
  const carried = before.left.filter((one) => one.workDutyId === row.dutyId);
  const lead = useIsLead();
  return (
    <div className="grid gap-6 lg:grid-cols-[1fr_20rem]">
      <div>
        <PageHead
          back={
            <>
              <Link to="/round">Round</Link> · <Link to={`/machines/${row.machineId}`}>{row.machineName}</Link>
            </>
          }
          title={row.title}
          subtitle={
            <>
              {row.machineName} <span className="figure">{row.machineTag}</span>, {row.siteName}
              {row.area && `, ${row.area}`}
            </>
          }
        />

        <WhenDue row={row} because={assessed.because} lead={lead && !isRepair(duty.procedureId)} />
        {assessed.driver?.kind === "condition" && assessed.state !== "later" && (
          <p className="mt-2">
            <Link to={aboutPath(row.machineId, assessed.because.join(" "))} className="inline-block min-h-11 py-2">
              Look for the cause
            </Link>
          </p>
        )}
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
        {carried.length > 0 && (
          <section aria-labelledby="carried" className="mt-4">
            <h2 id="carried" className="mb-2 text-lg">
              Left open, done with this duty
            </h2>
            <LeftList items={carried} today={row.today} />
          </section>
        )}
        <div className="mt-4">
          <BeforeStartCard
            facts={{ ...before, left: before.left.filter((one) => !carried.includes(one)) }}
            begun={false}
          />
        </div>

        {history.length > 0 && (
          <section aria-labelledby="found" className="mt-4">
            <h2 id="found" className="text-lg">
              How it was found
            </h2>
            <FoundHistory history={history} />
          </section>
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

      <BeforeBeginning procedure={procedure} minutes={isGeneral(procedure.id) ? row.takes.hands : null} />
    </div>
  );
}
