import { useNavigation } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { findLink } from "~/kit/server/links.server";
import { countLinkUse } from "~/kit/server/rate-limit.server";
import { addressContext } from "~/kit/server/request-context";
import { served } from "~/kit/server/served.server";
import { OnDay } from "~/ui/day";
import { NotUsable } from "~/ui/not-usable";
import { Notice } from "~/ui/notice";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/operator.route";
import { operatorView, reportProblem, tickDuties } from "./operator.server";
import { OperatorDuties, ReportForm, YourReports } from "./operator-parts";
import { reportSchema, tickSchema } from "./operator-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `${data.machine.name}, operator`, "Operator") },
  { name: "robots", content: "noindex" },
];

async function linkOf(token: string, address: string) {
  await served(countLinkUse(address));
  const link = await findLink(["operator"], token);
  if (!link)
    throw new Response("This link does not exist or was ended. Ask your service firm for a new one.", { status: 404 });
  return link;
}

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    return served(operatorView(await linkOf(params.token, context.get(addressContext)), new Date()));
  });
}

export async function action(args: Route.ActionArgs) {
  const link = await linkOf(args.params.token, args.context.get(addressContext));
  return formAction(args, {
    tick: form(tickSchema, async ({ dutyIds, name }, _, now) => {
      await tickDuties(link, { dutyIds, name }, now);
      return "Logged. Thank you.";
    }),
    report: form(reportSchema, async ({ name, text, stopped, photo }, _, now) => {
      const bytes = photo ? new Uint8Array(await photo.arrayBuffer()) : null;
      await reportProblem(link, { name, text, stopped, photo: bytes }, now);
      return "Reported. Your service firm sees it now.";
    }),
  });
}

export default function Operator({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, duties, today, outOfService, notUsable, reports, lessons } = loaderData;
  const busy = useNavigation().state !== "idle";
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const [tick, report] = [answerTo(actionData, "tick"), answerTo(actionData, "report")];
  const open = duties.filter((duty) => !duty.doneToday);
  return (
    <div className="mx-auto max-w-xl">
      <h1 className="text-2xl wrap-anywhere">{machine.name}</h1>
      <p className="text-ink-soft">
        {machine.siteName}
        {machine.area && `, ${machine.area}`} · <OnDay on={today} />
      </p>
      {outOfService && (
        <div role="alert" className="panel mt-3 border-4 border-ink p-4">
          <p className="text-xl font-bold">! Out of service: do not use it</p>
          <p className="mt-1 wrap-anywhere">{outOfService}</p>
          <p className="mt-1">Your service firm says when it may run again.</p>
        </div>
      )}
      {notUsable.length > 0 && (
        <div className="mt-3">
          <NotUsable why={notUsable} />
        </div>
      )}
      {actionData?.said && (
        <div className="mt-3">
          <Notice title={actionData.said} />
        </div>
      )}
      {problem && (
        <div className="mt-3">
          <Notice tone="problem">{problem}</Notice>
        </div>
      )}
      {lessons.length > 0 && (
        <section aria-label="What keeps it whole" className="panel mt-3 p-4">
          <h2 className="text-lg">What keeps it whole</h2>
          <ul className="mt-1 list-disc pl-5">
            {lessons.map((lesson) => (
              <li key={lesson} className="wrap-anywhere">
                {lesson}
              </li>
            ))}
          </ul>
        </section>
      )}
      <OperatorDuties open={open} duties={duties} today={today} tick={tick} busy={busy} />
      <YourReports reports={reports} today={today} />
      <ReportForm report={report} actionData={actionData} busy={busy} />
    </div>
  );
}
