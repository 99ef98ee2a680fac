import { useEffect } from "react";
import { Form, Link, redirect } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { useHeadingFocus } from "~/sheet/use-heading-focus";
import { familyName } from "~/ui/family-names";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/run.route";
import { FaultBench } from "./fault-bench";
import { forgetPractice } from "./kept-practice";
import { beginFault, beginSheet, doAct, runView } from "./practice.server";
import { actSchema, beginSchema, beginSheetSchema } from "./practice-schemas";
import { readAct } from "./read-act";
import { RunResult, VERDICT } from "./run-result";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Practice: ${familyName(data.run.family)}`, "Practice") },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(() => runView(actorOf(context), params.runId));
}

export function action(args: Route.ActionArgs) {
  const { runId } = args.params;
  const here = `/machines/practice/${runId}`;
  return formAction(args, {
    do: form(actSchema, async ({ seen, ...value }, who, now) => {
      await doAct(who, runId, readAct(value), seen, now);
      return redirect(here);
    }),
    begin: form(beginSchema, async ({ family, again }, who, now) =>
      redirect(`/machines/practice/${await beginFault(who, { family, again: again ?? null }, now)}`),
    ),
    sheet: form(beginSheetSchema, async ({ procedure }, who, now) =>
      redirect(`/practice/${procedure}?run=${await beginSheet(who, procedure, now)}`),
    ),
  });
}

/** A practice: the machine while it goes on, and what it came to. */
export default function Run({ loaderData, actionData }: Route.ComponentProps) {
  const { run, fault, end, isOwn } = loaderData;
  useEffect(() => {
    if (end) forgetPractice(run.id);
  }, [end, run.id]);
  useHeadingFocus(end ? "over" : "going on", false, VERDICT);
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  return (
    <>
      <PageHead
        back={<Link to="/machines/practice">Practice</Link>}
        title={fault ? `“${fault.symptom}”` : run.title}
        subtitle={`${familyName(run.family)} that does not exist${run.isNew ? "" : " · the same machine again"}`}
      />
      {problem && <Notice tone="problem">{problem}</Notice>}
      {end && <RunResult run={run} end={end} isOwn={isOwn} fault={fault} />}
      {!end && fault && (isOwn ? <FaultBench fault={fault} seen={run.actsCount} /> : <p>It is not finished yet.</p>)}
      {!end && !fault && (
        <p className="panel p-4">
          This sheet is not handed in yet. <Link to={`/practice/${run.procedureId}?run=${run.id}`}>Go on with it</Link>
        </p>
      )}
      {end && isOwn && (
        <Form method="post" className="mt-5 flex flex-wrap gap-2">
          <input type="hidden" name="family" value={run.family} />
          {run.kind === "fault" ? (
            <button name="intent" value="begin" className="btn btn-main">
              Another machine
            </button>
          ) : (
            <>
              <input type="hidden" name="procedure" value={run.procedureId} />
              <button name="intent" value="sheet" className="btn btn-main">
                Another machine
              </button>
            </>
          )}
        </Form>
      )}
      {end && isOwn && run.kind === "fault" && (
        <Form method="post" className="mt-2">
          <input type="hidden" name="intent" value="begin" />
          <input type="hidden" name="family" value={run.family} />
          <input type="hidden" name="again" value={run.id} />
          <button className="min-h-11 underline underline-offset-4">The same machine again</button>
        </Form>
      )}
    </>
  );
}
