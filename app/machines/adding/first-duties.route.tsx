import { Form, Link, redirect } from "react-router";

import { firstDutiesOf, maySetUp, takeFirstDuties } from "~/duties/first-duties.server";
import { answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { machineHead } from "~/machines/machines.server";
import { actorOf } from "~/people/session.server";
import { useDayWords } from "~/ui/day";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/first-duties.route";
import { addedOf } from "./added.server";
import { firstDutiesSchema } from "./new-machine-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `What ${data.machine.name} owes`, "What a machine owes") },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const [machine, added, duties] = await Promise.all([
      machineHead(params.machineId),
      addedOf(params.machineId),
      firstDutiesOf(params.machineId),
    ]);
    return { machine, duties, mayChange: maySetUp(actorOf(context), added) };
  });
}

export function action(args: Route.ActionArgs) {
  const { machineId } = args.params;
  return formAction(args, {
    duties: form(firstDutiesSchema, async ({ duties }, who, now) => {
      const chosen = duties.map(({ duty, take, on }) => ({ duty, take, on: on ?? null }));
      await takeFirstDuties(who, machineId, chosen, now);
      return redirect(`/machines/${machineId}`);
    }),
  });
}

export default function FirstDuties({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, duties, mayChange } = loaderData;
  const days = useDayWords();
  const { message, errors } = answerTo(actionData, "duties");
  const minutes = duties.reduce((sum, one) => sum + one.minutes, 0);
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={
          <>
            <Link to={`/machines/${machine.id}`}>{machine.name}</Link>
          </>
        }
        title="What it owes"
        subtitle={
          duties.length === 0
            ? undefined
            : `${duties.length === 1 ? "One duty" : `${duties.length} duties`} never done here, ${minutes} min in all. First days are spread out, none late.`
        }
      />
      {message && <Notice tone="problem">{message}</Notice>}
      {duties.length === 0 ? (
        <div className="panel p-6">
          <p className="text-lg font-semibold">Nothing is owed that was never done.</p>
          <p className="mt-1">
            Its family has no procedures, or all has been done once. A lead adds duties where the machine is set up.
          </p>
          <p className="mt-3">
            <Link to={`/machines/${machine.id}`} className="btn">
              To the machine
            </Link>
          </p>
        </div>
      ) : (
        <Form method="post">
          <ul className="panel divide-y divide-line">
            {duties.map((duty, i) => {
              const fault = errors[`duties[${i}].on`];
              return (
                <li key={duty.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-3 py-2">
                  <input type="hidden" name={`duties[${i}].duty`} value={duty.id} />
                  <label className="flex min-h-11 min-w-52 flex-1 items-center gap-3">
                    <input
                      type="checkbox"
                      name={`duties[${i}].take`}
                      defaultChecked
                      disabled={!mayChange}
                      className="size-5 accent-(--fill)"
                    />
                    <span className="min-w-0">
                      <span className="block font-semibold wrap-anywhere">{duty.title}</span>
                      <span className="block text-sm text-ink-soft wrap-anywhere">
                        {duty.rules.join("; ")} · {duty.minutes} min{duty.who === "operator" ? " · operator" : ""}
                      </span>
                    </span>
                  </label>
                  {duty.byCalendar ? (
                    <span>
                      <label htmlFor={`on-${i}`} className="sr-only">
                        First day of {duty.title}
                      </label>
                      <input
                        id={`on-${i}`}
                        type="date"
                        name={`duties[${i}].on`}
                        defaultValue={duty.dueOn ?? ""}
                        disabled={!mayChange}
                        className="field figure"
                        aria-invalid={fault ? true : undefined}
                        aria-describedby={`on-${i}-error`}
                      />
                      <span
                        id={`on-${i}-error`}
                        role={fault ? "alert" : undefined}
                        className="block text-sm font-semibold"
                      >
                        {fault && `! ${fault.join(" ")}`}
                      </span>
                    </span>
                  ) : (
                    <span className="text-sm">
                      {duty.dueOn === null ? "When it comes up" : `About ${days(duty.dueOn)}`}
                    </span>
                  )}
                </li>
              );
            })}
          </ul>
          <div className="mt-4 flex flex-wrap gap-2">
            {mayChange ? (
              <button className="btn btn-main btn-big">Take these</button>
            ) : (
              <Link to={`/machines/${machine.id}`} className="btn btn-main">
                To the machine
              </Link>
            )}
          </div>
        </Form>
      )}
    </div>
  );
}
