import type { FaultGuide, FindStep } from "../faults/guide";
import { CAUSE_STEP, SYMPTOM_STEP } from "../faults/guide-procedure";
import { GuideSearch } from "../faults/guide-search";
import { must } from "../must";
import { UNKNOWN_CAUSE } from "../sheet/readable-events";
import type { HiddenFault } from "./draw-fault";
import { FaultPractice, type PracticeAct } from "./fault-practice";

/**
 * The fault of a practice machine by the guide alone: always the check that is expected to find it soonest, gates where they are
 * needed, and all that belongs to leaving. What others are measured by.
 *
 * @returns what was done, with its minutes, and the practice that came of it
 */
export function byTheGuide(guide: FaultGuide, fault: HiddenFault): { acts: PracticeAct[]; practice: FaultPractice } {
  const practice = new FaultPractice(guide, fault);
  const acts: PracticeAct[] = [];
  const go = (act: PracticeAct): void => {
    practice.do(act);
    acts.push(act);
  };
  const step: FindStep = { ...guide, id: CAUSE_STEP, kind: "find", symptom: SYMPTOM_STEP };
  const found = search(guide, fault, step, practice, go);
  const cause = guide.causes.find((one) => one.id === found);
  if (cause?.remedy && cause.remedy.length > 0) go({ act: "remedy", cause: cause.id });
  if (practice.isCured) go({ act: "prove" });
  if (cause?.outOfService !== undefined && !practice.isCured) go({ act: "stop" });
  else if (cause?.interim && !practice.isCured) go({ act: "interim" });
  const isOurs = cause?.who === "technician" || cause?.who === "operator";
  if (!practice.isCured || (cause?.handOff && !isOurs)) go({ act: "hand-over", cause: found });
  if (cause?.handling ?? practice.symptom.tell) go({ act: "tell" });
  for (const id of practice.machine.rules.lastFirst([...practice.machine.inside])) go({ act: "leave", state: id });
  go({ act: "done" });
  return { acts, practice };
}

function search(
  { states, checks }: FaultGuide,
  { symptom, options }: HiddenFault,
  step: FindStep,
  practice: FaultPractice,
  go: (act: PracticeAct) => void,
): string {
  const { machine } = practice;
  for (let n = 0; n <= checks.length; n++) {
    const done = practice.checked.map(({ check, cause }) => ({
      check,
      result: cause === null ? ("clear" as const) : ("found" as const),
    }));
    const [next] = new GuideSearch({ step, states, symptom, options, inside: machine.inside, checks: done }).open;
    if (!next || next.chance <= 0) break;
    for (const { state, way } of next.gates) {
      if (way === "in" && machine.minutesUntil(state.id) > 0) {
        go({ act: "begin", state: state.id });
        const minutes = machine.minutesUntil(state.id);
        if (minutes > 0) go({ act: "wait", minutes });
      }
      go({ act: way === "in" ? "enter" : "leave", state: state.id });
    }
    go({ act: "check", check: next.check.id });
    const { cause } = must(practice.checked[practice.checked.length - 1]);
    if (cause !== null) return cause;
  }
  return UNKNOWN_CAUSE;
}
