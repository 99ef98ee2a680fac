import type { Correction, EventOf } from "./run-event";
import type { AppliedCorrection, RunState } from "./run-state";

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
