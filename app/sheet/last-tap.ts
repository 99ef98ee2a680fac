import { orderEvents, type RunEvent, undoneIds } from "@core";

const TAKES_BACK = new Set<RunEvent["type"]>([
  "safety-confirmed",
  "step-done",
  "step-skipped",
  "step-not-applicable",
  "checked",
  "gate-passed",
  "counted",
  "reading",
  "wear-decided",
  "as-found",
  "timer-started",
  "timer-stopped",
  "part-fitted",
  "part-turned",
  "mixed",
  "photo",
  "consumable-used",
  "finding",
  "note",
  "put-right",
]);

/** The person's last tap that still stands: all entries of one instant, as one tap may log several. */
export function lastUndoable(entries: readonly RunEvent[], me: string): RunEvent[] {
  const ordered = orderEvents(entries);
  const undone = undoneIds(ordered);
  const mine = ordered.filter((entry) => entry.by === me && TAKES_BACK.has(entry.type) && !undone.has(entry.id));
  const latest = mine[mine.length - 1];
  return latest ? mine.filter((entry) => entry.at === latest.at && entry.device === latest.device) : [];
}

/** What is taken back, in a word or two. */
export function tapWords(entry: RunEvent): string {
  switch (entry.type) {
    case "reading":
      return `reading ${entry.value}`;
    case "wear-decided":
      return entry.choice === "now" ? "renew it now" : "next visit";
    case "as-found":
      return `found ${entry.found}`;
    case "timer-started":
      return "clock started";
    case "timer-stopped":
      return "clock stopped";
    case "checked":
      return "check";
    case "gate-passed":
      return "gate";
    case "counted":
      return "one count";
    case "part-fitted":
      return "part fitted";
    case "part-turned":
      return "part turned";
    case "mixed":
      return "solution";
    case "photo":
      return "picture";
    case "consumable-used":
      return "material used";
    case "note":
    case "finding":
      return entry.type;
    default:
      return "last step";
  }
}
