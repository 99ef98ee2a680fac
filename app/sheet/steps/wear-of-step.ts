import { type SheetStep, type Step, wearRule, wornAt } from "@core";

import { wearNow, type WearOnSheet, type WearSaid } from "~/wear/wear-now";

/** What a sheet knows of wear: of its parts, and what meters show by what was read on it. */
export interface WearFacts {
  slots: readonly WearOnSheet[];
  meters: Readonly<Record<string, number>>;
}

export interface SaidOfSlot {
  known: WearOnSheet;
  said: WearSaid;
}

/** What the values of a measuring step say of the parts that they tell of; nothing while it is open, or out of its limits. */
export function wearOfStep({ definition, state, settled }: SheetStep, { slots, meters }: WearFacts): SaidOfSlot[] {
  if (definition.kind !== "measure" || !settled || state?.answer !== "in") return [];
  const rule = wearRule(definition);
  const values = rule ? wornAt(definition, rule, state.readings) : [];
  return slots.flatMap((known): SaidOfSlot[] => {
    // What it was left at comes after what was found.
    const read = values.findLast((one) => one.slot === known.slot && one.reading === known.reading);
    const said = read && wearNow(known, read, known.per === "day" ? null : (meters[known.per] ?? null));
    return said ? [{ known, said }] : [];
  });
}

/** The part of a step that is likeliest past its limit at the next visit. */
export const worstSaid = (all: readonly SaidOfSlot[]): SaidOfSlot | null =>
  all.reduce<SaidOfSlot | null>(
    (worst, one) => (worst && (worst.said.nextChance ?? -1) >= (one.said.nextChance ?? -1) ? worst : one),
    null,
  );

/** A later step of the same sheet renews the part, once somebody says so. */
export const renewsLater = (definition: Extract<Step, { kind: "measure" }>, steps: readonly Step[]): boolean =>
  steps.some(
    (step) =>
      step.kind === "replace" &&
      step.item === definition.wears?.item &&
      step.when?.some((one) => "step" in one && one.step === definition.id) === true,
  );

/** It pays to renew the part now, this sheet could, and nobody has decided yet: the page stays with it. */
export function wantsDecision(one: SheetStep | null, steps: readonly Step[], facts: WearFacts): boolean {
  if (one?.definition.kind !== "measure" || one.state?.decided || !renewsLater(one.definition, steps)) return false;
  return wearOfStep(one, facts).some(({ said }) => said.advice === "now");
}
