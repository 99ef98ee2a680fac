import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import { alwaysCovered } from "./always-covered";
import {
  agentsThatHarm,
  chemicalsThatMeet,
  gradesForbidden,
  limitsWithoutUnit,
  materialsNotListed,
  materialsNotUsed,
} from "./lint-materials";
import {
  askedTooMuch,
  countsThatDiffer,
  coveredWithoutSteps,
  criticalThatVanish,
  disassemblyWithoutState,
  emptyBands,
  hotWithoutCoolState,
  idleChoices,
  locksNotReleased,
  openPaths,
  provenWhileOff,
  statesThatClash,
  takesApart,
  timesThatDiffer,
} from "./lint-states";
import { goesBackOn } from "./parts";
import { placeGates } from "./place-gates";
import type { Procedure, Step } from "./procedure";
import { withDefaults } from "./terse";

export interface LintFinding {
  rule: string;
  /** Id of the step to mend; absent when the whole procedure is meant. */
  step?: string;
  severity: "error" | "warning";
  message: string;
}

interface Rule {
  rule: string;
  severity: LintFinding["severity"];
  /** What the rule wants, for a list of all rules. */
  wants: string;
  find: (procedure: Procedure) => { step?: string; message: string }[];
  /** Only from this version of the format on. */
  from?: 2;
}

/**
 * Whether a procedure is good practice (common practice, no single source). References that do not hold are for
 * `checkProcedure`; both take a draft that is not finished.
 *
 * @returns what to mend, in the order of the rules and then of the steps; [] when clean
 */
export function lintProcedure(given: Procedure): LintFinding[] {
  const procedure = withDefaults(requireRecord(given, "procedure")) as Procedure;
  requireList(procedure.steps, "procedure.steps");
  const version = procedure.formatVersion === 2 ? 2 : 1;
  const whole =
    version === 2 && !procedure.steps.some((step) => step.kind === "nested") ? placeGates(procedure) : procedure;
  return RULES.filter(({ from = 1 }) => from <= version).flatMap(({ rule, severity, find }) =>
    find(whole).map((found) => ({ rule, severity, ...found })),
  );
}

/** Every rule with what it wants. */
export function lintRules(): { rule: string; severity: LintFinding["severity"]; wants: string }[] {
  return RULES.map(({ rule, severity, wants }) => ({ rule, severity, wants }));
}

const RULES: readonly Rule[] = [
  {
    rule: "make-safe-first",
    severity: "error",
    wants: "A safety gate before anything is taken apart",
    find: (procedure) =>
      procedure.formatVersion === 2 && procedure.states
        ? disassemblyWithoutState(procedure)
        : unsafeDisassembly(procedure),
  },
  {
    rule: "cool-down",
    severity: "error",
    wants: "A cool-down gate on a hot machine, before it is taken apart",
    find: (procedure) =>
      procedure.formatVersion === 2 && procedure.states
        ? hotWithoutCoolState(procedure)
        : hotWithoutCoolDown(procedure),
  },
  {
    rule: "wait-clock",
    severity: "error",
    wants: "Every wait has a clock, and an alarm before its maximum",
    find: waitsWithoutClock,
  },
  {
    rule: "rinse-between",
    severity: "error",
    wants: "A rinse between chemicals that must not meet",
    find: chemicalsThatMeet,
  },
  { rule: "agent-harms", severity: "error", wants: "No agent on a surface that it harms", find: agentsThatHarm },
  { rule: "grade-forbidden", severity: "error", wants: "No grade that a step forbids", find: gradesForbidden },
  {
    rule: "asked-beforehand",
    severity: "error",
    wants: "Only what their own people may do is asked of customers beforehand",
    from: 2,
    find: askedTooMuch,
  },
  { rule: "refit", severity: "error", wants: "Every part that comes off goes back on", find: neverRefitted },
  { rule: "pair", severity: "error", wants: "Both of a pair are renewed together", find: oneOfAPair },
  { rule: "counter-reset", severity: "error", wants: "A service counter is set back", find: countersNotReset },
  { rule: "proof-last", severity: "error", wants: "A proof after the last work", find: noProof },
  { rule: "limit-unit", severity: "error", wants: "Every limit has a unit", find: limitsWithoutUnit },
  { rule: "material-listed", severity: "error", wants: "Every material used is on the list", find: materialsNotListed },
  { rule: "material-used", severity: "warning", wants: "Every material on the list is used", find: materialsNotUsed },
  {
    rule: "nested-covered",
    severity: "warning",
    wants: "A nested procedure's duty is satisfied by this one",
    find: nestedNotCovered,
  },
  {
    rule: "states-clash",
    severity: "error",
    wants: "No work that needs power behind a lock",
    from: 2,
    find: statesThatClash,
  },
  { rule: "lock-released", severity: "error", wants: "Every lock comes off", from: 2, find: locksNotReleased },
  {
    rule: "path-ends",
    severity: "error",
    wants: "Every path begins with a part taken off and ends before its refit",
    from: 2,
    find: openPaths,
  },
  { rule: "counts", severity: "error", wants: "As many go back on as came off", from: 2, find: countsThatDiffer },
  { rule: "proof-whole", severity: "error", wants: "Nothing is off while it is proven", from: 2, find: provenWhileOff },
  { rule: "band", severity: "error", wants: "A minimum below its maximum", from: 2, find: emptyBands },
  { rule: "choice", severity: "warning", wants: "A choice that changes something", from: 2, find: idleChoices },
  {
    rule: "covered-worked",
    severity: "error",
    wants: "The steps of what is called covered are on the sheet",
    from: 2,
    find: coveredWithoutSteps,
  },
  {
    rule: "critical-stays",
    severity: "error",
    wants: "A critical step that no answer makes go away",
    from: 2,
    find: criticalThatVanish,
  },
  {
    rule: "time",
    severity: "warning",
    wants: "A time in all like the sum of the steps",
    from: 2,
    find: timesThatDiffer,
  },
  { rule: "typical", severity: "warning", wants: "Figures are marked as typical", find: figuresNotMarked },
];

const byId = (steps: readonly Step[]): Map<string, Step> => new Map(steps.map((step) => [step.id, step]));

/** Steps that can cover others, one for each set of conditions: as many as differ. */
class Covering {
  readonly #steps: ReadonlyMap<string, Step>;
  readonly #byConditions = new Map<string, Step>();

  constructor(steps: ReadonlyMap<string, Step>) {
    this.#steps = steps;
  }

  add(step: Step): void {
    const key = JSON.stringify(step.when ?? []);
    if (!this.#byConditions.has(key)) this.#byConditions.set(key, step);
  }

  covers(step: Step): boolean {
    // One without conditions stands on every sheet.
    return this.#byConditions.has("[]") || alwaysCovered(step, [...this.#byConditions.values()], this.#steps);
  }
}

/** Protective equipment saves the hands, and stops nothing. */
const makesSafe = (step: Step): boolean =>
  step.kind === "safety" && (step.gates === undefined || step.gates.some((gate) => gate !== "protective"));

function unsafeDisassembly({ steps }: Procedure): { step: string; message: string }[] {
  const safe = new Covering(byId(steps));
  return steps.flatMap((step) => {
    if (makesSafe(step)) safe.add(step);
    if (!takesApart(step) || safe.covers(step)) return [];
    return [
      {
        step: step.id,
        message: `"${step.title}" takes the machine apart before it is made safe. Put a safety gate before it: gloves and glasses alone stop no machine.`,
      },
    ];
  });
}

/** A gate that says how cool, or how long. */
const cools = (step: Step): boolean =>
  step.kind === "safety" && (step.coolDown?.belowC !== undefined || (step.coolDown?.minutes ?? 0) > 0);

function hotWithoutCoolDown({ hazards, steps }: Procedure): { step?: string; message: string }[] {
  if (!hazards.some((hazard) => hazard.kind === "hot")) return [];
  const empty = steps.filter(
    (step) =>
      step.kind === "safety" && !cools(step) && (step.coolDown !== undefined || step.gates?.includes("cool-down")),
  );
  const told = empty.map((step) => ({
    step: step.id,
    message: `"${step.title}" cools down without saying to what temperature, or for how long.`,
  }));
  const cooled = new Covering(byId(steps));
  if (!steps.some(cools))
    return told.length > 0
      ? told
      : [
          {
            message:
              "The machine is hot: a cool-down gate, to a temperature or for a time, comes before it is touched.",
          },
        ];
  const first = steps.find((step) => {
    if (cools(step)) cooled.add(step);
    return takesApart(step) && !cooled.covers(step);
  });
  if (!first) return told;
  return [
    ...told,
    {
      step: first.id,
      message: `The machine is hot, and "${first.title}" takes it apart before it has cooled down on every machine that has this step: put a cool-down gate before it.`,
    },
  ];
}

/** "Leave it for 20 minutes" in the text of a step that has no clock. */
const WAITING_WORDS =
  /\b(wait|soak|stand|leave|let|dry|cool|steep)\b[^.;:]*?\b\d+(?:\.\d+)?\s*(?:min|minutes?|h|hours?)\b/i;

function waitsWithoutClock({ steps }: Procedure): { step: string; message: string }[] {
  return steps.flatMap((step) => {
    if (step.kind === "wait") {
      if (!(step.minMinutes > 0))
        return [{ step: step.id, message: `"${step.title}" waits without a time. Give its minimum.` }];
      if (step.maxMinutes !== undefined && step.silent) {
        return [
          { step: step.id, message: `"${step.title}" has a maximum and no alarm: nobody would notice that it passes.` },
        ];
      }
      return [];
    }
    const clocked = step.kind === "safety" && step.coolDown !== undefined;
    if (clocked || step.kind === "prove" || !WAITING_WORDS.test(`${step.title}. ${step.text ?? ""}`)) return [];
    return [{ step: step.id, message: `"${step.title}" tells to wait without a clock. Make it a wait of its own.` }];
  });
}

function neverRefitted({ steps }: Procedure): { step: string; message: string }[] {
  const known = byId(steps);
  /** Steps that put a part back on, met from the end. */
  const refits = new Map<string, Covering>();
  const found: { step: string; message: string }[] = [];
  for (const step of [...steps].reverse()) {
    for (const part of step.refits ?? []) {
      const covering = refits.get(part) ?? new Covering(known);
      covering.add(step);
      refits.set(part, covering);
    }
    for (const part of [...(step.removes ?? [])].reverse())
      if (!refits.get(part)?.covers(step))
        found.push({ step: step.id, message: `"${step.title}" takes off "${part}", and no later step puts it back.` });
  }
  return found.reverse();
}

function oneOfAPair({ steps, parts }: Procedure): { step: string; message: string }[] {
  const pairs = new Map(parts.filter((part) => part.pair).map((part) => [part.item, part]));
  /** Slots of each item that are renewed on every sheet on which some step is, by its conditions. */
  const renewed = new Map<string, Set<string>>();
  const renewals = steps.flatMap((step) =>
    (step.kind === "replace" || step.kind === "turn") && pairs.has(step.item) ? [step] : [],
  );
  const keyOf = (step: Step, item: string): string => `${item} ${JSON.stringify(step.when ?? [])}`;
  for (const step of renewals) {
    const key = keyOf(step, step.item);
    renewed.set(key, new Set([...(renewed.get(key) ?? []), ...step.slots]));
  }
  return renewals.flatMap((step) => {
    const part = must(pairs.get(step.item));
    const slots = [keyOf(step, step.item), `${step.item} []`].flatMap((key) => [...(renewed.get(key) ?? [])]);
    if (part.slots.every((slot) => slots.includes(slot.id))) return [];
    return [
      {
        step: step.id,
        message: `"${step.title}" renews one of a pair: a new ${part.name.toLowerCase()} beside a worn one wears out early.`,
      },
    ];
  });
}

function countersNotReset({ steps, meters }: Procedure): { message: string }[] {
  const reset = new Set(steps.flatMap((step) => (step.kind === "reset" ? [step.meter] : [])));
  return meters
    .filter((meter) => meter.service && !reset.has(meter.id))
    .map((meter) => ({
      message: `The service counter "${meter.name}" is never set back: it would lie for a whole interval.`,
    }));
}

function noProof({ steps, leaves }: Procedure): { message: string; step?: string }[] {
  // A machine that is left open is proven by the duty that goes on with it.
  if ([...(leaves?.states ?? []), ...(leaves?.off ?? [])].length > 0) return [];
  const proofs = new Set(steps.flatMap((step) => (step.kind === "prove" ? [step.id] : [])));
  /** Comes up only when the proof has failed, and leads to another. */
  const isAfterProof = ({ when = [] }: Step): boolean =>
    when.some((one) => "step" in one && one.is === "not-ok" && proofs.has(one.step));
  const isWork = (step: Step): boolean =>
    takesApart(step) ||
    goesBackOn(step).length > 0 ||
    step.kind === "do" ||
    step.kind === "mix" ||
    step.kind === "wait" ||
    step.kind === "count" ||
    (step.kind === "repeat" && !isAfterProof(step));
  const lastWork = steps.findLastIndex(isWork);
  const proven = steps.some((step, i) => step.kind === "prove" && i > lastWork && (step.when ?? []).length === 0);
  if (proven) return [];
  const last = steps[lastWork];
  return [
    {
      ...(last ? { step: last.id } : {}),
      message: last
        ? `Nothing proves the work after "${last.title}".`
        : "Nothing proves that the machine works: end with a proof.",
    },
  ];
}

function nestedNotCovered({ steps, plan }: Procedure): { step: string; message: string }[] {
  return steps.flatMap((step) =>
    step.kind === "nested" && !(plan.covers ?? []).includes(step.procedure)
      ? [
          {
            step: step.id,
            message: `"${step.procedure}" is worked here, but its own duty would stay due: add it to what this one covers.`,
          },
        ]
      : [],
  );
}

function figuresNotMarked({ steps, summary }: Procedure): { message: string }[] {
  const figures = steps.some(
    (step) => (step.kind === "measure" && step.limits !== undefined) || step.kind === "wait" || step.kind === "mix",
  );
  return figures && !/typical/i.test(summary)
    ? [
        {
          message:
            "Limits and times are typical values: say so in the summary, and that the maker's manual and local rules come first.",
        },
      ]
    : [];
}
