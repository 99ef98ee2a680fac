import { Form, Link } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/first-steps.route";
import { firstSteps, loadLibrary } from "./first-steps.server";
import { type Step, stepsOf } from "./steps";

export const meta: Route.MetaFunction = () => [{ title: "First steps – Humble Hound" }];

export function loader() {
  return served(firstSteps);
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    library: form(NOTHING, async (_, who, now) => {
      const count = await loadLibrary(who, now);
      return `${count} procedures are in the library.`;
    }),
  });
}

export default function FirstStepsPage({ loaderData, actionData }: Route.ComponentProps) {
  const { message, said } = answerTo(actionData, "library");
  const steps = stepsOf(loaderData);
  const next = steps.findIndex((step) => !step.done && !step.later);
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        title={loaderData.signed ? "You have begun" : "First steps"}
        subtitle="From nothing to the first signed record, in about ten minutes."
      />
      {message && <Notice tone="problem">{message}</Notice>}
      {said && <Notice>{said}</Notice>}
      <ol className="panel divide-y divide-line">
        {steps.map((step, i) => (
          <li key={step.title} className="flex flex-wrap items-center gap-x-4 gap-y-2 px-4 py-3">
            <span
              aria-hidden="true"
              className="figure grid size-9 shrink-0 place-items-center border-2 border-ink font-bold"
            >
              {step.done ? "✓" : i + 1}
            </span>
            <div className="min-w-52 flex-1">
              <h2 className="text-lg">
                {step.title}
                {step.done && <span className="sr-only">, done</span>}
              </h2>
              <p className="text-sm text-ink-soft wrap-anywhere">{step.says}</p>
            </div>
            <StepDoor step={step} main={i === next} />
          </li>
        ))}
      </ol>
    </div>
  );
}

function StepDoor({ step, main }: { step: Step; main: boolean }) {
  const look = main ? "btn btn-main" : "btn";
  if (step.door === null) return null;
  if (step.door.to === null)
    return (
      <Form method="post">
        <button name="intent" value="library" className={look}>
          {step.door.label}
        </button>
      </Form>
    );
  return (
    <Link to={step.door.to} className={look}>
      {step.door.label}
    </Link>
  );
}
