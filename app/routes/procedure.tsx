import { Link } from "react-router";
import { limitWords, type Step, type Trigger } from "@core";
import { familyName } from "~/components/family-glyph";
import { SafetySign } from "~/components/safety-sign";
import { served } from "~/served.server";
import { getProcedure } from "~/services/procedures.server";
import type { Route } from "./+types/procedure";

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.procedure.title ?? "Procedure"} – Humble Hound` }];

export async function loader({ params }: Route.LoaderArgs) {
  return { procedure: await served(getProcedure(params.procedureId)) };
}

export default function ProcedurePage({ loaderData }: Route.ComponentProps) {
  const { procedure } = loaderData;
  return (
    <div className="max-w-3xl">
      <p className="text-sm">
        <Link to="/book">Book</Link> · <Link to="/book/procedures">Procedures</Link>
      </p>
      <h1 className="mt-1 text-2xl">{procedure.title}</h1>
      <p className="text-ink-soft">
        {familyName(procedure.family)}, version <span className="figure">{procedure.version}</span>
      </p>
      <p className="mt-3">{procedure.summary}</p>
      <p className="mt-3">
        <strong>Comes due:</strong> {procedure.plan.triggers.map(triggerWords).join(", or ")}
        {procedure.plan.scaledByHardness && "; sooner where water is hard"}.
      </p>
      <ul className="mt-4 space-y-2">
        {procedure.hazards.map((hazard) => (
          <li key={hazard.text} className="flex items-center gap-3">
            <SafetySign kind={hazard.kind} size={32} />
            {hazard.text}
          </li>
        ))}
      </ul>
      <h2 className="mt-6 mb-2 text-lg">Steps</h2>
      <ol className="panel divide-y divide-line">
        {procedure.steps.map((step, i) => (
          <li key={step.id} className="flex gap-3 px-3 py-2.5">
            <span className="figure w-7 shrink-0 text-right text-ink-soft">{i + 1}</span>
            <div>
              <p className="font-semibold">{step.title}</p>
              {step.text && <p>{step.text}</p>}
              <p className="text-sm text-ink-soft">{stepWords(step)}</p>
            </div>
          </li>
        ))}
      </ol>
    </div>
  );
}

function triggerWords(trigger: Trigger): string {
  switch (trigger.kind) {
    case "calendar":
      return `every ${trigger.every === 1 ? trigger.unit : `${trigger.every} ${trigger.unit}s`}`;
    case "meter":
      return `every ${trigger.every.toLocaleString("en")} on ${trigger.meter}`;
    case "event":
      return `at each "${trigger.event.replaceAll("-", " ")}"`;
    case "condition":
      return `when ${trigger.reading} is out of limits`;
  }
}

function stepWords(step: Step): string {
  switch (step.kind) {
    case "safety":
      return step.checks.join(" · ");
    case "inspect":
      return `As it should be: ${step.asItShouldBe}`;
    case "measure":
      return `Measured in ${step.unit}${step.limits ? `, ${limitWords(step.limits, step.unit)}` : ""}`;
    case "wait":
      return `${step.minMinutes}${step.maxMinutes === undefined ? "" : ` to ${step.maxMinutes}`} minutes${step.maxMinutes === undefined ? " or more" : ""}`;
    case "count":
      return `${step.times} times`;
    case "repeat":
      return `${step.clean}, or: ${step.again}`;
    case "prove":
      return `Expected: ${step.expect}`;
    case "reset":
      return `Shows ${step.expect} afterwards`;
    case "hand-off":
      return `To ${step.to}`;
    case "mix":
      return "Made up with the stock's strength as it is";
    case "turn":
      return "Turned while a use is left, then replaced";
    case "choose":
      return step.schools.map((one, i) => `${one.name}${i === 0 ? " (default)" : ""}: ${one.why}`).join(" · ");
    case "decide":
      return step.branches.map((one) => one.name).join(" · ");
    case "nested":
      return `All steps of ${step.procedure}, version ${step.version}`;
    case "replace":
    case "do":
      return "";
  }
}
