import { checkMix, type ChemicalClass } from "../mix/check-mix";
import { must } from "../must";
import { alwaysCovered, exclusive, whenever } from "./always-covered";
import { chemicalsOf, itemsOf } from "./chemicals";
import type { Procedure, Step } from "./procedure";

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

function takesApart(step: Step): boolean {
  return (step.removes?.length ?? 0) > 0 || step.kind === "replace" || step.kind === "turn";
}

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

/** Steps as they are worked when each block is done a second time; a block within one is done again in both passes. */
function withSecondPasses(steps: readonly Step[]): Step[] {
  const worked: Step[] = [];
  /** Where each step was last worked. */
  const place = new Map<string, number>();
  for (const step of steps) {
    place.set(step.id, worked.push(step) - 1);
    const from = step.kind === "repeat" ? place.get(step.from) : undefined;
    // Blocks within blocks double: beyond this nothing new comes of it.
    if (from !== undefined && worked.length < MOST_PASSES * steps.length) worked.push(...worked.slice(from));
  }
  return worked;
}

const MOST_PASSES = 8;

function chemicalsThatMeet({ steps, materials }: Procedure): { step: string; message: string }[] {
  /** What may still be on the machine: of each kind the last step that brought it, for each set of conditions. */
  let present = new Map<string, { step: Step; chemical: ChemicalClass }>();
  const found = new Map<string, { step: string; message: string }>();
  for (const step of withSecondPasses(steps)) {
    if (step.rinses)
      present = new Map([...present].filter(([, one]) => !whenever(step, one.step) && !exclusive(step, one.step)));
    for (const chemical of chemicalsOf(step, materials)) {
      for (const before of present.values()) {
        const verdict = exclusive(step, before.step) ? { safe: true } : checkMix(before.chemical, chemical);
        if (verdict.safe) continue;
        const where =
          before.step === step
            ? `"${step.title}" brings ${before.chemical} and ${chemical} together`
            : `"${step.title}" brings ${chemical} after ${before.chemical} of "${before.step.title}"`;
        const message = `${where} without a rinse. ${verdict.hazard ?? ""}`.trim();
        found.set(`${step.id} ${message}`, { step: step.id, message });
      }
      present.set(`${chemical} ${JSON.stringify(step.when ?? [])}`, { step, chemical });
    }
  }
  return [...found.values()];
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

function noProof({ steps }: Procedure): { message: string; step?: string }[] {
  const isWork = (step: Step): boolean =>
    takesApart(step) ||
    (step.refits?.length ?? 0) > 0 ||
    step.kind === "do" ||
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
