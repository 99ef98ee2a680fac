import { Form, useNavigation } from "react-router";

import { LeadMark, leadWords } from "~/duties/lead-mark";
import { allFaults, answerTo, typed } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { findLink } from "~/kit/server/links.server";
import { countLinkUse } from "~/kit/server/rate-limit.server";
import { addressContext } from "~/kit/server/request-context";
import { served } from "~/kit/server/served.server";
import { Notice } from "~/ui/notice";
import { PhotoField } from "~/ui/photo-field";

import type { Route } from "./+types/operator.route";
import { operatorView, reportProblem, tickDuties } from "./operator.server";
import { reportSchema, tickSchema } from "./operator-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.machine.name ?? "Machine"} – operator` },
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
  const { machine, duties, today, outOfService } = loaderData;
  const busy = useNavigation().state !== "idle";
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const [tick, report] = [answerTo(actionData, "tick"), answerTo(actionData, "report")];
  const open = duties.filter((duty) => !duty.doneToday);
  return (
    <div className="mx-auto max-w-xl">
      <h1 className="text-2xl wrap-anywhere">{machine.name}</h1>
      <p className="text-ink-soft">
        {machine.siteName}
        {machine.area && `, ${machine.area}`} · <span className="figure">{today}</span>
      </p>
      {outOfService && (
        <div role="alert" className="panel mt-3 border-4 border-ink p-4">
          <p className="text-xl font-bold">! Out of service: do not use it</p>
          <p className="mt-1 wrap-anywhere">{outOfService}</p>
          <p className="mt-1">Your service firm says when it may run again.</p>
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
      <section aria-labelledby="today" className="panel mt-4 p-4">
        <h2 id="today" className="mb-2 text-lg">
          {open.length === 0
            ? duties.length === 0
              ? "No operator duties here"
              : "All done for today"
            : "What did you do?"}
        </h2>
        <Form method="post" key={open.length}>
          <input type="hidden" name="intent" value="tick" />
          <ul className="divide-y divide-line">
            {duties.map((duty) => (
              <li key={duty.dutyId} className="py-2">
                {duty.doneToday ? (
                  <p>
                    <span aria-hidden="true">✓ </span>
                    {duty.title} <span className="text-sm text-ink-soft">by {duty.doneToday.name}</span>
                  </p>
                ) : (
                  <label className="flex min-h-12 items-center gap-3">
                    <input type="checkbox" name="dutyIds" value={duty.dutyId} className="size-7 shrink-0" />
                    <span className="min-w-0 flex-1">
                      <span className="font-semibold">{duty.title}</span>
                      {duty.steps.length > 0 && (
                        <span className="block text-sm text-ink-soft">{duty.steps.join(" · ")}</span>
                      )}
                    </span>
                    <span className="shrink-0 text-center text-xs text-ink-soft">
                      <LeadMark state={duty.state} anchorOn={null} dueOn={duty.dueOn} today={today} width={64} />
                      <span className="block">{leadWords(duty.state, duty.dueOn, today)}</span>
                    </span>
                  </label>
                )}
              </li>
            ))}
          </ul>
          {open.length > 0 && (
            <div className="mt-3">
              <label htmlFor="tick-name" className="block font-semibold">
                Your name or initials
              </label>
              <input
                id="tick-name"
                name="name"
                className="field"
                autoComplete="name"
                maxLength={60}
                defaultValue={typed(tick, "name") ?? ""}
                required
              />
              <button className="btn btn-main btn-big mt-3 w-full" aria-disabled={busy}>
                Log as done
              </button>
            </div>
          )}
        </Form>
      </section>
      <details className="panel mt-4 p-4" open={report.refused}>
        <summary className="min-h-12 py-2 text-lg font-bold">Report a problem</summary>
        <Form method="post" encType="multipart/form-data" key={actionData?.said ?? ""}>
          <input type="hidden" name="intent" value="report" />
          <label htmlFor="report-text" className="mt-2 block font-semibold">
            What is wrong?
          </label>
          <textarea
            id="report-text"
            name="text"
            rows={4}
            className="field"
            maxLength={2000}
            required
            defaultValue={typed(report, "text") ?? ""}
          />
          <label className="my-2 flex min-h-12 items-center gap-3">
            <input type="checkbox" name="stopped" className="size-7" /> The machine is stopped
          </label>
          <PhotoField name="photo" label="Picture, if it helps" />
          <label htmlFor="report-name" className="block font-semibold">
            Your name or initials
          </label>
          <input
            id="report-name"
            name="name"
            className="field"
            autoComplete="name"
            maxLength={60}
            defaultValue={typed(report, "name") ?? ""}
            required
          />
          <button className="btn btn-main btn-big mt-3 w-full" aria-disabled={busy}>
            Report it
          </button>
          <p className="mt-2 text-sm">
            In danger to people: switch off, keep clear and call the emergency number first.
          </p>
        </Form>
      </details>
    </div>
  );
}
