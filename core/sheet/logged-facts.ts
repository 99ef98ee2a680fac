import { isAsFound } from "../wear/tune-interval";
import { isPossible, judgedTogether, judgeReading, limitsOf } from "./judge";
import type { Step } from "./procedure";
import type { Correction, EventOf, RunEvent } from "./run-event";
import type { AppliedCorrection, LoggedReading, LoggedText, MixedSolution, RunState, StepState } from "./run-state";

/** A fact's fields as they are now, and what was corrected to come there. */
export interface Corrected {
  value: Correction;
  corrections: AppliedCorrection[];
}

/** A fact's fields with its corrections applied in order, and what each of them changed. */
export function applyCorrections(original: Correction, list: readonly EventOf<"corrected">[]): Corrected {
  let value = original;
  const corrections = list.map(({ id, by, at, why, set }) => {
    const old: Correction = {};
    for (const field of Object.keys(set) as (keyof Correction)[]) Object.assign(old, { [field]: value[field] });
    value = { ...value, ...set };
    return { eventId: id, by, at, why, old, set };
  });
  return { value, corrections };
}

/** The sheet begins: by its first beginning, whatever came after. */
export function begin(state: RunState, { at, by, planId, begins }: EventOf<"started">): void {
  if (state.startedAt !== null) return;
  Object.assign(state, { startedAt: at, startedBy: by, planId, begins: begins ?? null });
}

/** What was used, as corrected. */
export function usedOf(
  event: EventOf<"consumable-used">,
  { value, corrections }: Corrected,
): RunState["consumables"][number] {
  return {
    eventId: event.id,
    step: event.step ?? null,
    round: event.round ?? null,
    item: event.item,
    qty: value.qty ?? event.qty,
    unit: event.unit,
    lot: value.lot ?? null,
    expires: event.expires ?? null,
    by: event.by,
    at: event.at,
    corrections,
  };
}

/** What making up a solution took of everything but water. */
export function mixedOf({ id, amounts, batch, step, round, by, at }: EventOf<"mixed">): RunState["consumables"] {
  return amounts
    .filter(({ item }) => item !== "water")
    .map(({ item, ml, lot }) => ({
      eventId: id,
      step,
      round,
      by,
      at,
      item,
      qty: ml,
      unit: "mL",
      lot: lot ?? batch ?? null,
      expires: null,
      corrections: [],
    }));
}

/** The piece in a slot: a new one as corrected, or the one that is there, turned. */
export function partOf(
  event: EventOf<"part-fitted"> | EventOf<"part-turned">,
  { value, corrections }: Corrected,
): RunState["parts"][number] {
  const fitted = event.type === "part-fitted" ? event : null;
  return {
    eventId: event.id,
    item: event.item,
    slot: value.slot ?? event.slot,
    turnedUsesLeft: event.type === "part-turned" ? event.usesLeft : null,
    qty: value.qty ?? fitted?.qty ?? 0,
    lot: value.lot ?? null,
    expires: fitted?.expires ?? null,
    by: event.by,
    at: event.at,
    corrections,
  };
}

/**
 * Notes the functions of a proof that were tried.
 *
 * @returns whether the step is answered with it: of a proof of several functions when the last result of each is as expected
 */
export function provenBy(at: StepState, step: Step, event: EventOf<"step-done">): boolean {
  if (event.results === undefined || step.kind !== "prove" || !step.functions) return true;
  const known = new Set(step.functions.map((one) => one.id));
  const results = event.results.filter((one) => known.has(one.function));
  at.results = [
    ...(at.results ?? []),
    ...results.map(({ function: name, ok, note }) => ({
      eventId: event.id,
      function: name,
      ok,
      note: note ?? null,
      by: event.by,
      at: event.at,
    })),
  ];
  at.lastEventId = event.id;
  const last = lastResults(at);
  return step.functions.every((one) => last.get(one.id)?.ok === true);
}

/** The last result of each function of a proof that was tried. */
export const lastResults = ({ results = [] }: StepState): Map<string, NonNullable<StepState["results"]>[number]> =>
  new Map(results.map((one) => [one.function, one]));

export function photoOf(event: EventOf<"photo">): RunState["photos"][number] {
  return {
    eventId: event.id,
    photo: event.photo,
    step: event.step ?? null,
    finding: event.finding ?? null,
    caption: event.caption ?? null,
    by: event.by,
    at: event.at,
  };
}

/** A part is renewed though it is within its limit, or not: the last word counts. */
export function decide(at: StepState, step: Step, event: EventOf<"wear-decided">): void {
  const { id: eventId, choice, chance = null, reason = null, by } = event;
  const side = step.kind === "measure" && step.wears?.worse === "up" ? "high" : "low";
  at.decided = { eventId, choice, side, chance, reason, by, at: event.at };
  at.lastEventId = event.id;
}

/** A check of a search, or a gate that was passed within it. */
export function searched(
  at: StepState,
  event: EventOf<"checked"> | EventOf<"gate-passed">,
  cause: string | null,
): void {
  const common = { eventId: event.id, by: event.by, at: event.at };
  if (event.type === "checked") {
    const { check, result, note = null } = event;
    at.checks = withOne(at.checks, { ...common, check, result, cause, note });
  } else at.gates = withOne(at.gates, { ...common, state: event.state, way: event.way });
  at.lastEventId = event.id;
}

/** The fields of an entry that a correction may set; what a check has found is its answer. */
export const correctable = (event: RunEvent): Correction =>
  event.type === "checked"
    ? { answer: event.cause }
    : event.type === "as-found"
      ? { answer: event.found }
      : (event as Correction);

export function interimOf(event: EventOf<"interim">): RunState["interim"][number] {
  return {
    eventId: event.id,
    text: event.text,
    until: event.until,
    step: event.step ?? null,
    by: event.by,
    at: event.at,
    ended: null,
  };
}

/** How the machine was found, as corrected. */
export function foundOf(
  { id: eventId, found, by, at }: EventOf<"as-found">,
  { value, corrections }: Corrected,
): NonNullable<RunState["asFound"]> {
  return { eventId, found: isAsFound(value.answer) ? value.answer : found, by, at, corrections };
}

export function putRightOf({ id, item, text, by, at }: EventOf<"put-right">): RunState["putRight"][number] {
  return { eventId: id, item, text: text ?? null, by, at };
}

export function outcomeOf(event: EventOf<"outcome">): RunState["outcome"] {
  const { outcome, reason, by, at, part = null, again = null } = event;
  return { outcome, reason, by, at, part, again };
}

/** Takes back what held for the time being; what is not known, or over already, stays as it is. */
export function endInterim(state: RunState, event: EventOf<"interim-ended">): void {
  const measure = state.interim.find((one) => one.eventId === event.ref);
  if (!measure) state.unknown.push(event);
  else measure.ended ??= { eventId: event.id, by: event.by, at: event.at, note: event.note ?? null };
}

/** A note or a finding, as corrected. */
export function textOf(
  event: EventOf<"note"> | EventOf<"finding">,
  severity: LoggedText["severity"],
  { value, corrections }: Corrected,
): LoggedText {
  return {
    eventId: event.id,
    text: value.text ?? event.text,
    step: event.step ?? null,
    severity,
    by: event.by,
    at: event.at,
    corrections,
  };
}

/** The solution that was made up. */
export const solutionOf = (event: EventOf<"mixed">): MixedSolution => ({
  eventId: event.id,
  amounts: event.amounts,
  finalMl: event.finalMl,
  stockPercent: event.stockPercent ?? null,
  batch: event.batch ?? null,
});

/** What a step moved: what came off as logged, or what is back so far. @returns whether the step goes on, some of it not being back */
export function moveParts(at: StepState, { id, off, back }: EventOf<"step-done">): boolean {
  if (off) at.off = off;
  if (!back) return false;
  for (const { item, count } of back) at.back = { ...at.back, [item]: (at.back?.[item] ?? 0) + count };
  at.status = "open";
  at.lastEventId = id;
  return true;
}

/** Whether those found worn are said to be renewed, and none is. */
export const noneRenewed = (at: StepState, step: Step): boolean =>
  step.kind === "replace" && step.some === true && at.slots.length === 0;

/** A list with one more: the list itself, so that thousands of corrections of one entry stay quick. */
export function withOne<Item>(list: Item[] | undefined, item: Item): Item[] {
  if (!list) return [item];
  list.push(item);
  return list;
}

/** A reading as it is held against its step; `again`: its point was read before. */
export function readingOf(
  event: EventOf<"reading">,
  step: Step,
  { value, corrections, again }: { value: number; corrections: LoggedReading["corrections"]; again: boolean },
): LoggedReading {
  const stage = step.kind === "measure" ? step.stage : undefined;
  return {
    eventId: event.id,
    step: event.step,
    round: event.round,
    point: event.point ?? 0,
    value,
    unit: event.unit,
    verdict: judgedTogether(step) ? "in" : judgeReading(value, limitsOf(step)),
    stage: event.stage ?? stage ?? (again ? "as-left" : "as-found"),
    instrument: event.instrument ?? null,
    instrumentExpired: event.calibrationDue !== undefined && event.calibrationDue < event.at.slice(0, 10),
    ...(event.asked ? { asked: event.asked } : {}),
    ...(isPossible(step, value) ? {} : { impossible: true }),
    by: event.by,
    at: event.at,
    corrections,
  };
}
