import { checkMix, type ChemicalClass } from "../mix/check-mix";
import { must } from "../must";
import { chemicalsOf, itemsOf } from "./chemicals";
import type { Procedure, Step, StepCondition } from "./procedure";

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
}

/**
 * Whether a procedure is good practice (common practice, no single source). References that do not hold are for
 * `checkProcedure`; both take a draft that is not finished.
 *
 * @returns what to mend, in the order of the rules and then of the steps; [] when clean
 */
export function lintProcedure(procedure: Procedure): LintFinding[] {
  return RULES.flatMap(({ rule, severity, find }) => find(procedure).map((found) => ({ rule, severity, ...found })));
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
    find: unsafeDisassembly,
  },
  {
    rule: "cool-down",
    severity: "error",
    wants: "A cool-down gate on a hot machine, before it is taken apart",
    find: hotWithoutCoolDown,
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
  { rule: "typical", severity: "warning", wants: "Figures are marked as typical", find: figuresNotMarked },
];

/** Whether one step happens whenever another does: its conditions are among the other's. */
function whenever(step: Step, other: Step): boolean {
  const given = (other.when ?? []).map((one) => JSON.stringify(one));
  return (step.when ?? []).every((one) => given.includes(JSON.stringify(one)));
}

/** Whether two steps stand on different branches, so that one sheet never has both. */
function exclusive(a: Step, b: Step): boolean {
  const clash = (x: StepCondition, y: StepCondition): boolean => {
    if ("option" in x && "option" in y) return x.option === y.option && x.fitted !== y.fitted;
    return "step" in x && "step" in y && x.step === y.step && x.is !== y.is;
  };
  return (a.when ?? []).some((x) => (b.when ?? []).some((y) => clash(x, y)));
}

function takesApart(step: Step): boolean {
  return (step.removes?.length ?? 0) > 0 || step.kind === "replace" || step.kind === "turn";
}

function unsafeDisassembly({ steps }: Procedure): { step: string; message: string }[] {
  return steps
    .filter(
      (step, i) =>
        takesApart(step) && !steps.slice(0, i).some((before) => before.kind === "safety" && whenever(before, step)),
    )
    .map((step) => ({
      step: step.id,
      message: `"${step.title}" takes the machine apart before it is made safe. Put a safety gate before it.`,
    }));
}

function hotWithoutCoolDown({ hazards, steps }: Procedure): { step?: string; message: string }[] {
  if (!hazards.some((hazard) => hazard.kind === "hot")) return [];
  const cools = (step: Step): boolean =>
    step.kind === "safety" && (step.coolDown !== undefined || (step.gates ?? []).includes("cool-down"));
  const firstCool = steps.findIndex(cools);
  const firstApart = steps.findIndex(takesApart);
  if (firstCool >= 0 && (firstApart < 0 || firstCool < firstApart)) return [];
  return [
    {
      ...(firstCool >= 0 ? { step: must(steps[firstApart]).id } : {}),
      message: "The machine is hot: a cool-down gate, to a temperature or for a time, comes before it is touched.",
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

function chemicalsThatMeet({ steps, materials }: Procedure): { step: string; message: string }[] {
  let present: { step: Step; chemical: ChemicalClass }[] = [];
  return steps.flatMap((step) => {
    const found: { step: string; message: string }[] = [];
    if (step.rinses) present = present.filter((one) => !whenever(step, one.step) && !exclusive(step, one.step));
    for (const chemical of chemicalsOf(step, materials)) {
      for (const before of present) {
        const verdict = exclusive(step, before.step) ? { safe: true } : checkMix(before.chemical, chemical);
        if (verdict.safe) continue;
        const where =
          before.step === step
            ? `"${step.title}" brings ${before.chemical} and ${chemical} together`
            : `"${step.title}" brings ${chemical} after ${before.chemical} of "${before.step.title}"`;
        found.push({ step: step.id, message: `${where} without a rinse. ${verdict.hazard ?? ""}`.trim() });
      }
      present.push({ step, chemical });
    }
    return found;
  });
}

function neverRefitted({ steps }: Procedure): { step: string; message: string }[] {
  return steps.flatMap((step, i) =>
    (step.removes ?? [])
      .filter((part) => !steps.slice(i).some((later) => (later.refits ?? []).includes(part) && whenever(later, step)))
      .map((part) => ({
        step: step.id,
        message: `"${step.title}" takes off "${part}", and no later step puts it back.`,
      })),
  );
}

function oneOfAPair({ steps, parts }: Procedure): { step: string; message: string }[] {
  return steps.flatMap((step) => {
    if (step.kind !== "replace" && step.kind !== "turn") return [];
    const part = parts.find((one) => one.item === step.item);
    if (!part?.pair || part.slots.every((slot) => step.slots.includes(slot.id))) return [];
    return [
      {
        step: step.id,
        message: `"${step.title}" renews one of a pair: a new ${part.name.toLowerCase()} beside a worn one wears out early.`,
      },
    ];
  });
}

function countersNotReset({ steps, meters }: Procedure): { message: string }[] {
  return meters
    .filter((meter) => meter.service && !steps.some((step) => step.kind === "reset" && step.meter === meter.id))
    .map((meter) => ({
      message: `The service counter "${meter.name}" is never set back: it would lie for a whole interval.`,
    }));
}

function noProof({ steps }: Procedure): { message: string; step?: string }[] {
  const isWork = (step: Step): boolean =>
    takesApart(step) ||
    (step.refits?.length ?? 0) > 0 ||
    step.kind === "mix" ||
    step.kind === "wait" ||
    step.kind === "count" ||
    step.kind === "repeat";
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

function limitsWithoutUnit({ steps }: Procedure): { step: string; message: string }[] {
  return steps
    .filter(
      (step) =>
        step.kind === "measure" &&
        (step.limits !== undefined || step.target !== undefined) &&
        !((step.unit as string | undefined) ?? "").trim(),
    )
    .map((step) => ({ step: step.id, message: `"${step.title}" has a limit without a unit.` }));
}

function materialsNotListed({ steps, materials }: Procedure): { step: string; message: string }[] {
  const listed = new Set(materials.map((one) => one.item));
  return steps.flatMap((step) =>
    itemsOf(step)
      .filter((item) => !listed.has(item))
      .map((item) => ({
        step: step.id,
        message: `"${step.title}" uses "${item}", which is not on the material list: it would not be loaded.`,
      })),
  );
}

function materialsNotUsed({ steps, materials }: Procedure): { message: string }[] {
  const used = new Set(steps.flatMap(itemsOf));
  // What a nested procedure uses is on its own list.
  if (steps.some((step) => step.kind === "nested")) return [];
  return materials
    .filter((one) => !used.has(one.item))
    .map((one) => ({ message: `"${one.name}" is on the material list, and no step uses it.` }));
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
