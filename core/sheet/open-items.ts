import { instantMs } from "../days/parse-instant";
import { requireList, requireRecord, requireText } from "../inputs";
import { must } from "../must";
import { type FollowUp, leftToDo } from "./follow-ups";
import { sheetSteps } from "./next-steps";
import type { MachineFacts, Procedure, Step } from "./procedure";
import type { RunState } from "./run-state";

/** What one sheet leaves of a machine, told apart from everything else that it leaves. */
export interface LeftItem extends FollowUp {
  /** Names it among what the sheet leaves, and stays the same when a correction words it otherwise. */
  key: string;
  /** What is the same on every sheet that finds it: left again, it is one item, not two. */
  thing: string;
  /** Entry of the log that says so, where one does. */
  eventId?: string;
}

/** A closed sheet, boiled down to what it does to the open items of its machine. */
export interface SheetEffects {
  sheetId: string;
  /** Instant at which it was closed. */
  at: string;
  left: LeftItem[];
  /** Keys of things that it settles, and ids of items that it says are put right. */
  settles: string[];
}

/** Closed by somebody with the right to: a lead with a reason, or the signature that returns a machine to service. */
export interface ItemClosing {
  item: string;
  at: string;
}

export interface OpenItem extends LeftItem {
  /** `<sheet> <key>` of the sheet that left it first. */
  id: string;
  sheetId: string;
  since: string;
  /** Sheets that found it still open, and as bad as then. */
  again: { sheetId: string; at: string; severity: FollowUp["severity"]; because: string }[];
  closed: { at: string; sheetId: string | null } | null;
}

/**
 * What a closed sheet leaves of its machine's work, and what of earlier work it settles.
 *
 * @param sheet.closedAt instant; not looked at here
 * @param sheet.unsafe what was done on it as it must not be, with the entry that did it: it leaves the machine unsafe
 */
export function sheetEffects(
  sheet: { id: string; closedAt: string; unsafe?: readonly { eventId: string; step: string; because: string }[] },
  procedure: Procedure,
  state: RunState,
  machine: MachineFacts,
): SheetEffects {
  const signed = state.status === "signed";
  const steps = new Map(procedure.steps.map((step) => [step.id, step]));
  // What a visit without the work did not come to is owed by its duty; it leaves what was said.
  const left = leftToDo(procedure, signed ? state : { ...state, status: "working" }, machine);
  const missing = state.outcome?.part;
  const all: Omit<LeftItem, "key" | "thing">[] = [
    ...left.filter((one) => !missing || one.kind !== "fit-part" || one.slot !== missing.slot),
    ...(missing
      ? [
          {
            kind: "fit-part" as const,
            step: null,
            ...missing,
            severity: "major" as const,
            because: must(state.outcome).reason,
          },
        ]
      : []),
    ...(sheet.unsafe ?? []).map(({ eventId, step, because }) => ({
      kind: "finding" as const,
      step,
      severity: "unsafe" as const,
      because,
      eventId,
    })),
  ];
  return {
    sheetId: sheet.id,
    at: sheet.closedAt,
    left: all.map((one) => {
      const thing = thingOf(one, procedure, steps);
      return { ...one, key: one.eventId ?? thing, thing };
    }),
    settles: signed ? settledBy(procedure, state, machine) : [],
  };
}

const partThing = (item: string): string => `part ${item}`;
const slotThing = (slot: string): string => `slot ${slot}`;
const putRight = (item: string): string => `put right ${item}`;

/** Where a step was written first: worked in a sheet that contains its procedure, it is the same work. */
function workOf(step: Step | undefined, procedure: Procedure): string {
  const from = step?.workedFor?.[0];
  return from ? `${from.procedure}/${from.step}` : `${procedure.id}/${step?.id ?? ""}`;
}

function thingOf(
  { kind, step, slot, item, because }: Omit<LeftItem, "key" | "thing">,
  procedure: Procedure,
  steps: ReadonlyMap<string, Step>,
): string {
  if (kind === "fit-part") return slot === undefined ? partThing(item ?? "") : slotThing(slot);
  const at = step === null ? "" : workOf(steps.get(step), procedure);
  return kind === "incomplete" || kind === "out-of-limit" ? `${kind} ${at}` : `${kind} ${at} ${because}`;
}

/** Things that a sheet settles once it is signed: pieces put in, steps worked, readings within their limits, and what it says is put right. */
export function settledBy(procedure: Procedure, state: RunState, machine: MachineFacts): string[] {
  const worked = sheetSteps(procedure, state, machine).flatMap(({ definition, state: at }) => {
    if (at === null) return [];
    const done = at.status === "done" && at.timer?.verdict !== "short";
    const counts = done || (at.status === "not-applicable" && at.reason !== null);
    const beyond = at.answer === "low" || at.answer === "high";
    const work = workOf(definition, procedure);
    return [...(counts ? [`incomplete ${work}`] : []), ...(counts && !beyond ? [`out-of-limit ${work}`] : [])];
  });
  return [
    ...new Set([
      ...worked,
      ...state.parts.flatMap((one) => [slotThing(one.slot), partThing(one.item)]),
      ...state.consumables.map((one) => partThing(one.item)),
      ...state.putRight.map((one) => putRight(one.item)),
    ]),
  ];
}

/** Whether a sheet settles an item. A part has to be put in; what is unsafe is settled by the signature that clears it. */
export function settlesItem(
  effects: ReadonlySet<string>,
  one: Pick<OpenItem, "id" | "thing" | "kind" | "severity">,
): boolean {
  if (effects.has(one.thing) && one.kind !== "finding" && one.kind !== "interim") return true;
  return one.severity !== "unsafe" && one.kind !== "fit-part" && effects.has(putRight(one.id));
}

const SEVERITIES = ["minor", "major", "unsafe"] as const;

/** As bad as it was found to be on any sheet. */
export function severityOf(one: Pick<OpenItem, "severity" | "again">): FollowUp["severity"] {
  const worst = Math.max(...[one, ...one.again].map(({ severity }) => SEVERITIES.indexOf(severity)));
  return must(SEVERITIES[worst]);
}

/**
 * The items of a machine, open and closed, as its closed sheets and what leads have closed tell them, in the order in which
 * they came about. Whatever order the sheets are given in, the result is the same: they count in the order of their closing.
 *
 * @param before items as they stood before the first of these sheets
 * @throws CoreError for instants that do not exist
 */
export function openItems(
  sheets: readonly SheetEffects[],
  closings: readonly ItemClosing[] = [],
  before: readonly OpenItem[] = [],
): OpenItem[] {
  requireList(closings, "closings").forEach((one, i) => {
    requireText(requireRecord(one, `closings[${i}]`).item, `closings[${i}].item`);
  });
  const items = requireList(before, "before").map((one) => ({ ...one, again: [...one.again] }));
  const happened = [
    ...requireList(sheets, "sheets").map((sheet, i) => {
      const { sheetId, at, left, settles } = requireRecord(sheet, `sheets[${i}]`);
      requireText(sheetId, `sheets[${i}].sheetId`);
      requireList(settles, `sheets[${i}].settles`);
      requireList(left, `sheets[${i}].left`).forEach((one, k) => {
        const { key, thing } = requireRecord(one, `sheets[${i}].left[${k}]`);
        requireText(key, `sheets[${i}].left[${k}].key`);
        requireText(thing, `sheets[${i}].left[${k}].thing`);
      });
      return { at: instantMs(at, `sheets[${i}].at`), id: sheetId, sheet };
    }),
    // A lead closes what is there: of the same moment, the sheet comes first.
    ...closings.map((closing, i) => ({
      at: instantMs(closing.at, `closings[${i}].at`),
      id: `~${closing.item}`,
      closing,
    })),
  ].sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));
  for (const one of happened) {
    if ("sheet" in one) applySheet(items, one.sheet);
    else {
      const item = items.find(({ id }) => id === one.closing.item);
      if (item) item.closed ??= { at: one.closing.at, sheetId: null };
    }
  }
  return items;
}

/** So many sheets that found it again are named. */
const MOST_AGAIN = 50;

/** What is found on every sheet for years stays short: of those that were no worse, the latest are kept. */
function foundAgain(item: OpenItem, one: OpenItem["again"][number]): void {
  item.again.push(one);
  if (item.again.length <= MOST_AGAIN) return;
  const worst = severityOf(item);
  const spare = item.again.findIndex(({ severity }) => severity !== worst);
  item.again.splice(Math.max(0, spare), 1);
}

function applySheet(items: OpenItem[], { sheetId, at, left, settles: settled }: SheetEffects): void {
  const effects = new Set(settled);
  const open = items.filter((one) => one.closed === null);
  for (const one of open) if (settlesItem(effects, one)) one.closed = { at, sheetId };
  const still = new Map(open.filter((one) => one.closed === null).map((one) => [one.thing, one]));
  for (const one of left) {
    const known = still.get(one.thing);
    if (known) {
      if (known.sheetId !== sheetId) foundAgain(known, { sheetId, at, severity: one.severity, because: one.because });
      continue;
    }
    const item: OpenItem = { ...one, id: `${sheetId} ${one.key}`, sheetId, since: at, again: [], closed: null };
    items.push(item);
    still.set(one.thing, item);
  }
}
