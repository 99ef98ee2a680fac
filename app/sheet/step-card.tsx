import type { ReactNode } from "react";
import { SafetySign } from "~/components/safety-sign";
import { CountStep } from "./steps/count-step";
import { InspectStep, ProveStep, RepeatStep } from "./steps/judge-steps";
import { MeasureStep } from "./steps/measure-step";
import { ReplaceStep } from "./steps/replace-step";
import { ResetStep } from "./steps/reset-step";
import { SafetyStep } from "./steps/safety-step";
import { SimpleStep } from "./steps/simple-step";
import type { StepCardProps } from "./steps/step-props";
import { WaitStep } from "./steps/wait-step";

/** One step, large: what to do, what it should come to, and the buttons that log it. */
export function StepCard(props: StepCardProps) {
  const { one, procedure } = props;
  const { definition } = one;
  return (
    <article aria-labelledby="step-title" className="panel p-4 sm:p-6">
      {one.round > 1 && <p className="mb-1 font-semibold">Round {one.round}</p>}
      <h2 id="step-title" className="text-2xl sm:text-3xl">
        {definition.title}
      </h2>
      {definition.text && <p className="mt-2 text-lg">{definition.text}</p>}
      {definition.kind === "safety" && (
        <ul className="mt-4 space-y-2">
          {procedure.hazards.map((hazard) => (
            <li key={hazard.text} className="flex items-center gap-3">
              <SafetySign kind={hazard.kind} size={44} />
              <span>{hazard.text}</span>
            </li>
          ))}
        </ul>
      )}
      <div className="mt-5">
        <Body {...props} />
      </div>
    </article>
  );
}

function Body(props: StepCardProps): ReactNode {
  switch (props.one.definition.kind) {
    case "safety":
      return <SafetyStep {...(props as StepCardProps<"safety">)} />;
    case "do":
      return <SimpleStep {...props} button="Done" />;
    case "hand-off":
      return <SimpleStep {...props} button="Handed over" />;
    case "prove":
      return <ProveStep {...(props as StepCardProps<"prove">)} />;
    case "inspect":
      return <InspectStep {...(props as StepCardProps<"inspect">)} />;
    case "measure":
      return <MeasureStep {...(props as StepCardProps<"measure">)} />;
    case "reset":
      return <ResetStep {...(props as StepCardProps<"reset">)} />;
    case "wait":
      return <WaitStep {...(props as StepCardProps<"wait">)} />;
    case "count":
      return <CountStep {...(props as StepCardProps<"count">)} />;
    case "replace":
      return <ReplaceStep {...(props as StepCardProps<"replace">)} />;
    case "repeat":
      return <RepeatStep {...(props as StepCardProps<"repeat">)} />;
  }
}
