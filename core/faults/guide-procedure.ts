import type { Procedure, Step, StepCondition } from "../sheet/procedure";
import { UNKNOWN_CAUSE } from "../sheet/readable-events";
import type { FaultCause, FaultGuide, FindStep, RemedyStep } from "./guide";
import { GuideSearch } from "./guide-search";

/** Ids of the steps that every fault's sheet has. */
export const SYMPTOM_STEP = "symptom";
export const CAUSE_STEP = "cause";
export const PROOF_STEP = "proof";
const AGAIN_STEP = "again";

/** Event that brings a fault's duty about. */
export const FAULT_EVENT = "fault";
/** So often one searches on before somebody else is asked. */
const MOST_SEARCHES = 4;

/** Id of the procedure that a family's faults are worked with. */
export const faultProcedureId = (family: string): string => `${family}-faults`;

/** Whether a procedure is a family's faults. */
export const isFaultProcedure = (procedureId: string): boolean => procedureId.endsWith("-faults");

/** The step of a sheet that looks for a fault's cause; null on other sheets. */
export const findStepOf = ({ steps }: Pick<Procedure, "steps">): FindStep | null =>
  steps.find((step): step is FindStep => step.kind === "find") ?? null;

/**
 * The sheet that a family's faults are worked with: what is complained of, the search for its cause, the remedies, of which one comes
 * up, and the proof; what is not cured is searched on, or goes to somebody else. Of the guide's version, in the open format of
 * procedures, gates not yet in their places.
 */
export function guideProcedure(guide: FaultGuide): Procedure {
  const search: FindStep = {
    id: CAUSE_STEP,
    kind: "find",
    title: "Find the cause",
    symptom: SYMPTOM_STEP,
    symptoms: guide.symptoms,
    checks: guide.checks,
    causes: guide.causes.map(({ remedy: _, ...cause }) => cause),
    critical: true,
  };
  const minutes = Math.round(typicalMinutes(guide, search));
  const steps: Step[] = [
    {
      id: SYMPTOM_STEP,
      kind: "decide",
      title: "What is wrong?",
      question: "What the operator says",
      minutes: 1,
      branches: guide.symptoms.map(({ id, says }) => ({ id, name: says })),
    },
    { ...search, minutes },
    ...guide.causes.flatMap(stepsOf),
    {
      id: `${UNKNOWN_CAUSE}-hand-off`,
      kind: "hand-off",
      title: "Nothing found: hand it over",
      text: "The service packet says what was checked and what it showed.",
      when: [{ step: CAUSE_STEP, is: UNKNOWN_CAUSE }],
      minutes: 5,
      to: "Authorised service",
    },
    {
      id: PROOF_STEP,
      kind: "prove",
      title: "Prove it",
      expect:
        "What was complained of is gone; or it is handed over, and out of service and tagged if nobody may use it",
      minutes: 3,
    },
    {
      id: AGAIN_STEP,
      kind: "repeat",
      title: "Not cured",
      from: CAUSE_STEP,
      question: "What now?",
      clean: "Hand it over",
      again: "Search on",
      maxRounds: MOST_SEARCHES,
      when: [{ step: PROOF_STEP, is: "not-ok" }],
    },
    {
      id: "hand-off",
      kind: "hand-off",
      title: "Not cured: hand it over",
      text: "The service packet says what was checked, done and found.",
      when: [{ step: AGAIN_STEP, is: "clean" }],
      minutes: 5,
      to: "Authorised service",
    },
  ];
  const { family, version, title, summary, hazards, protective, tools, materials, parts, options, states } = guide;
  return {
    format: "humble-hound/procedure",
    formatVersion: 2,
    id: faultProcedureId(family),
    version,
    title,
    family,
    summary,
    who: "technician",
    minutes: { handsOn: minutes + 10, waiting: 0 },
    plan: { triggers: [{ kind: "event", event: FAULT_EVENT }] },
    ...{ hazards, protective, tools, materials, parts, options, meters: [], states },
    steps,
  };
}

function stepsOf({ id, name, who, remedy = [], handOff, on = [] }: FaultCause): Step[] {
  const found: StepCondition[] = [{ step: CAUSE_STEP, is: id }, ...on];
  const idOf = (step: string): string => `${id}-${step}`;
  const own = new Set(remedy.map((step) => step.id));
  const renamed = (condition: StepCondition): StepCondition =>
    "step" in condition && own.has(condition.step) ? { ...condition, step: idOf(condition.step) } : condition;
  const steps = remedy.map((step): RemedyStep => ({
    ...step,
    id: idOf(step.id),
    area: name,
    when: [...found, ...(step.when ?? []).map(renamed)],
    ...(step.kind === "wait" && step.meanwhile ? { meanwhile: step.meanwhile.map(idOf) } : {}),
  }));
  // Who may remedy it here is handed over only when it is not cured.
  if (!handOff || (remedy.length > 0 && (who === "technician" || who === "operator"))) return steps;
  return [
    ...steps,
    {
      id: idOf("hand-off"),
      kind: "hand-off",
      title: `Hand it over: ${name.charAt(0).toLowerCase()}${name.slice(1)}`,
      text: `For: ${handOff.to}. Say: ${handOff.say}`,
      area: name,
      when: found,
      minutes: 5,
      to: handOff.to,
    },
  ];
}

/** What a search takes with typical chances, over all symptoms. */
function typicalMinutes(guide: FaultGuide, step: FindStep): number {
  const each = guide.symptoms.map(
    ({ id }) => new GuideSearch({ step, states: guide.states, symptom: id, options: [] }).expectedMinutes,
  );
  return each.reduce((sum, one) => sum + one, 0) / Math.max(1, each.length);
}
