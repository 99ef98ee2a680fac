import { findStepOf, type Procedure, type RunEvent } from "@core";

import { capital } from "~/kit/capital";
import { outcomeName } from "~/kit/outcomes";
import { checkLine } from "~/sheet/find/find-view";
import { materialName, partName } from "~/sheet/item-names";

/** An entry by itself, in words: what was logged, on which step. */
export function entryWords(entry: RunEvent, procedure: Procedure): string {
  const id = "step" in entry ? entry.step : undefined;
  const title = id && (procedure.steps.find((one) => one.id === id)?.title ?? id);
  return title ? `${title}: ${said(entry, procedure)}` : capital(said(entry, procedure));
}

/** Whether a part was renewed though it was within its limit; null for everything else. */
function decidedWords(entry: RunEvent): string | null {
  if (entry.type !== "wear-decided") return null;
  const choice = entry.choice === "now" ? "renewed before its limit" : "left until the next visit";
  return entry.reason ? `${choice}, ${entry.reason}` : choice;
}

/** What was logged within the search for a fault's cause, or of a part that wears; null for everything else. */
function searchWords(entry: RunEvent, procedure: Procedure): string | null {
  if (entry.type === "wear-decided") return decidedWords(entry);
  if (entry.type === "as-found") return `found ${entry.found}`;
  const step = findStepOf(procedure);
  if (entry.type === "checked" && step)
    return checkLine(step, { ...entry, cause: entry.cause ?? null, note: entry.note ?? null });
  if (entry.type !== "gate-passed") return null;
  const name = procedure.states?.find((one) => one.id === entry.state)?.name ?? entry.state;
  return entry.way === "in" ? name : `end of: ${name}`;
}

function said(entry: RunEvent, procedure: Procedure): string {
  switch (entry.type) {
    case "started":
      return "sheet opened";
    case "reading":
      return `${entry.value} ${entry.unit}`.trim();
    case "step-done":
      return ["done", entry.answer, entry.reason].filter(Boolean).join(", ");
    case "step-skipped":
      return `skipped, ${entry.reason}`;
    case "step-not-applicable":
      return `does not apply, ${entry.reason}`;
    case "part-fitted":
      return `fitted ${partName(procedure, entry.item, entry.slot)}`;
    case "part-turned":
      return `turned ${partName(procedure, entry.item, entry.slot)}`;
    case "consumable-used":
      return `used ${materialName(procedure, entry.item)}, ${entry.qty} ${entry.unit}`;
    case "mixed":
      return `made up ${entry.finalMl} mL`;
    case "note":
      return entry.text;
    case "finding":
      return `${entry.severity}: ${entry.text}`;
    case "photo":
      return entry.caption ? `picture, ${entry.caption}` : "picture";
    case "interim":
      return `for now: ${entry.text}, until ${entry.until}`;
    case "interim-ended":
      return `what held for now is over${entry.note ? `, ${entry.note}` : ""}`;
    case "put-right":
      return `put right what was left open${entry.text ? `: ${entry.text}` : ""}`;
    case "lock-lifted":
      return `a lead lifted a lock, ${entry.reason}`;
    case "signed":
      return "name" in entry ? `signature of ${entry.name}` : `nobody to sign: ${entry.reason}`;
    case "outcome":
      return `${outcomeName(entry.outcome)}, ${entry.reason}`;
    case "undone":
      return "an entry taken back";
    default:
      return searchWords(entry, procedure) ?? entry.type.replaceAll("-", " ");
  }
}
