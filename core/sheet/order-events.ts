import { instantMs } from "../days/parse-instant";
import { isRecord, requireList, requireRecord, requireText } from "../inputs";
import { must } from "../must";
import type { RunEvent } from "./run-event";

/**
 * Events once each, in the order (`at`, `id`), whatever order and however often they arrived.
 *
 * The server refuses a known id with other content; should two devices hold such a pair all the same, the one whose
 * JSON sorts first is kept, so that both show the same sheet.
 */
export function orderEvents(events: readonly RunEvent[]): RunEvent[] {
  const byId = new Map<string, RunEvent>();
  requireList(events, "events").forEach((event, i) => {
    if (!isRecord(event)) requireRecord(event, `events[${i}]`);
    if (typeof event.id !== "string") requireText(event.id, `events[${i}].id`);
    const known = byId.get(event.id);
    if (known === undefined || (known !== event && JSON.stringify(event) < JSON.stringify(known)))
      byId.set(event.id, event);
  });
  return [...byId.values()]
    .map((event) => ({ event, ms: instantMs(event.at, `events.${event.id}.at`) }))
    .sort((a, b) => a.ms - b.ms || (a.event.id < b.event.id ? -1 : 1))
    .map(({ event }) => event);
}

/**
 * What of a log counts, once a signature lists what it saw: those entries, whatever their times say, then the signature, and
 * corrections of any of it. All else came late: it is kept beside the record and changes nothing in it. A log without such a
 * signature counts whole.
 *
 * @param ordered events in the order of {@link orderEvents}
 */
export function splitAtSignature(ordered: readonly RunEvent[]): { counted: RunEvent[]; late: RunEvent[] } {
  const signature = ordered.find((event) => event.type === "signed" && event.role === "technician" && event.entries);
  if (signature?.type !== "signed" || signature.role !== "technician" || !signature.entries)
    return { counted: [...ordered], late: [] };
  const seen = new Set([...signature.entries, signature.id]);
  const known = new Set(ordered.map((event) => event.id));
  const about = correctedEntries(ordered);
  // What corrects something that has not arrived may yet turn out to correct what was seen.
  const corrects = (event: RunEvent): boolean => {
    const ref = seen.has(event.id) ? undefined : about.get(event.id)?.ref;
    return ref !== undefined && (seen.has(ref) || !known.has(ref));
  };
  return {
    counted: [
      ...ordered.filter((event) => seen.has(event.id) && event !== signature),
      signature,
      ...ordered.filter(corrects),
    ],
    late: ordered.filter((event) => !seen.has(event.id) && !corrects(event)),
  };
}

/**
 * What each correction is about in the end, as a correction may correct a correction; corrections that go round in a circle are
 * about nothing and left out.
 *
 * @param takenBack ids of what was undone: what corrects a correction of these counts no more than it does
 */
export function correctedEntries(
  ordered: readonly RunEvent[],
  takenBack: ReadonlySet<string> = new Set(),
): Map<string, { ref: string; counts: boolean }> {
  const refs = new Map(
    ordered.flatMap((event) =>
      event.type === "corrected" && typeof event.ref === "string" ? [[event.id, event.ref] as const] : [],
    ),
  );
  const about = new Map<string, { ref: string; counts: boolean }>();
  for (const id of refs.keys()) {
    const path: string[] = [];
    const onPath = new Set<string>();
    let at = id;
    while (refs.has(at) && !about.has(at) && !onPath.has(at)) {
      path.push(at);
      onPath.add(at);
      at = must(refs.get(at));
    }
    if (onPath.has(at)) continue;
    let found = about.get(at) ?? { ref: at, counts: true };
    for (const passed of path.reverse()) {
      found = { ref: found.ref, counts: found.counts && !takenBack.has(passed) };
      about.set(passed, found);
    }
  }
  return about;
}

/** Whether an event closes the sheet: the technician's signature, or an outcome without the work. */
export function closesRun(event: RunEvent): boolean {
  return event.type === "outcome" || (event.type === "signed" && event.role === "technician");
}

/**
 * Ids of events that an `undone` takes back. An undo may itself be undone by a later one; a device's clock may put an
 * undo before what it takes back, and it counts all the same. Nothing is undone once the sheet is signed or ended:
 * from then on facts are corrected, never taken back.
 *
 * @param ordered events in the order of {@link orderEvents}
 */
export function undoneIds(ordered: readonly RunEvent[]): Set<string> {
  const position = new Map(ordered.map((event, i) => [event.id, i]));
  const closing = ordered.findIndex(closesRun);
  const voided = new Set<string>();
  for (let i = (closing < 0 ? ordered.length : closing) - 1; i >= 0; i--) {
    const event = must(ordered[i]);
    if (event.type !== "undone" || voided.has(event.id)) continue;
    const at = position.get(event.ref);
    if (at === undefined) continue;
    // Undoing an undo works only backwards, or two of them could void each other.
    if (must(ordered[at]).type === "undone" && at >= i) continue;
    if (closing >= 0 && at >= closing) continue;
    voided.add(event.ref);
  }
  return voided;
}
