import { chemicalClash, harmsOf, inWords, type Lock, locksOf, type RunState } from "@core";
import type { ReactNode } from "react";

import { FindStep } from "~/sheet/find/find-step";
import { ChooseStep, DecideStep } from "~/sheet/steps/choice-steps";
import { CountStep } from "~/sheet/steps/count-step";
import { InspectStep, ProveStep, RepeatStep } from "~/sheet/steps/judge-steps";
import { MeasureStep } from "~/sheet/steps/measure-step";
import { MixStep } from "~/sheet/steps/mix-step";
import { PartsOfStep, photosOfRemoval } from "~/sheet/steps/parts-of-step";
import { RefitStep } from "~/sheet/steps/refit-step";
import { ReplaceStep } from "~/sheet/steps/replace-step";
import { ResetStep } from "~/sheet/steps/reset-step";
import { SafetyStep } from "~/sheet/steps/safety-step";
import { SimpleStep } from "~/sheet/steps/simple-step";
import type { StepCardProps } from "~/sheet/steps/step-props";
import { TakeOffStep } from "~/sheet/steps/take-off-step";
import { TurnStep } from "~/sheet/steps/turn-step";
import { WaitStep } from "~/sheet/steps/wait-step";
import { StepFigure } from "~/ui/figure";
import { SafetySign } from "~/ui/safety-sign";

import { useSheetFacts } from "./sheet-facts";

/** One step, large: what to do, what it should come to, and the buttons that log it. */
export function StepCard({ state, ...given }: StepCardProps & { state: RunState }) {
  const { machine, hands } = useSheetFacts();
  const { one, procedure } = given;
  const { definition } = one;
  const clash = given.open ? chemicalClash(procedure, state, machine, one) : null;
  const harm = given.open ? harmsOf(definition, procedure.materials)[0] : undefined;
  const props = clash || harm ? { ...given, open: false } : given;
  return (
    <article aria-labelledby="step-title" className="panel p-4 sm:p-6">
      {definition.area && <p className="text-sm font-semibold text-ink-soft">{definition.area}</p>}
      {one.round > 1 && <p className="mb-1 font-semibold">Pass {one.round}</p>}
      <h2
        id="step-title"
        tabIndex={-1}
        aria-describedby="step-place"
        className="scroll-mt-28 text-2xl sm:scroll-mt-44 outline-none sm:text-3xl"
      >
        {definition.title}
      </h2>
      {definition.text && <p className="mt-2 text-lg">{definition.text}</p>}
      <PartsOfStep one={one} ledger={state.ledger} photos={photosOfRemoval(one, procedure.steps, state.photos)} />
      {definition.kind === "safety" && (
        <ul className="mt-4 grid gap-x-5 gap-y-2 sm:grid-cols-2">
          {procedure.hazards.map((hazard) => (
            <li key={hazard.text} className="flex items-center gap-3">
              <SafetySign kind={hazard.kind} size={44} />
              <span>{hazard.text}</span>
            </li>
          ))}
        </ul>
      )}
      {definition.figure && <StepFigure figure={definition.figure} />}
      {clash && (
        <div role="alert" className="mt-4 flex items-start gap-3 border-2 border-ink p-3">
          <SafetySign kind="chemical" size={44} />
          <p className="font-semibold">
            Stop: "{clash.afterTitle}" left {clash.present} on the machine, and this brings {clash.brings}.{" "}
            {clash.hazard} Rinse first: settle the rinse that was skipped, or undo.
          </p>
        </div>
      )}
      {harm && (
        <div role="alert" className="mt-4 flex items-start gap-3 border-2 border-ink p-3">
          <SafetySign kind="chemical" size={44} />
          <p className="font-semibold">
            Stop: {harm.material}
            {harm.surface === null ? " must not be used here." : ` on ${inWords(harm.surface)}: ${harm.harm}`} Take
            another and log why, or leave the step out with a reason.
          </p>
        </div>
      )}
      <div className="mt-5">
        <Body {...props} run={state} lock={hands ? othersLock(given, state, hands.me) : null} />
      </div>
    </article>
  );
}

/** The lock that a gate takes off, when it is a colleague's. */
function othersLock({ procedure, one: { definition } }: StepCardProps, state: RunState, me: string): Lock | null {
  if (definition.kind !== "safety" || definition.gate?.way !== "out") return null;
  const kept = definition.gate.state;
  const lock = locksOf(procedure, state).on.find((one) => one.state === kept);
  return lock && lock.by !== null && lock.by !== me ? lock : null;
}

function Body({ run, lock, ...props }: StepCardProps & { run: RunState; lock: Lock | null }): ReactNode {
  const { ledger } = run;
  switch (props.one.definition.kind) {
    case "safety":
      return <SafetyStep {...(props as StepCardProps<"safety">)} lock={lock} />;
    case "do":
      if ((props.one.definition.putsBack ?? []).length > 0) return <RefitStep {...props} ledger={ledger} />;
      if ((props.one.definition.takesOff ?? []).length > 0) return <TakeOffStep {...props} />;
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
    case "mix":
      return <MixStep {...(props as StepCardProps<"mix">)} />;
    case "turn":
      return <TurnStep {...(props as StepCardProps<"turn">)} />;
    case "choose":
      return <ChooseStep {...(props as StepCardProps<"choose">)} />;
    case "decide":
      return <DecideStep {...(props as StepCardProps<"decide">)} />;
    case "find":
      return <FindStep {...(props as StepCardProps<"find">)} run={run} />;
    case "nested":
      return null;
    case "repeat":
      return <RepeatStep {...(props as StepCardProps<"repeat">)} />;
  }
}
