import { triggerWords } from "~/procedures/trigger-words";

import type { DutySettings } from "./duties.server";

/** What was changed about a duty, and what it was before. */
export function changeWords({ action: what, details }: { action: string; details: Record<string, unknown> }): string {
  const rulesOf = (settings: unknown): string =>
    ((settings as Pick<DutySettings, "rules"> | undefined)?.rules.triggers ?? []).map(triggerWords).join("; ");
  if (what === "changed") return `${String(details.reason)} (was: ${rulesOf(details.old)})`;
  if (what === "interval tuned") return `${what}, ${String(details.reason)} (was: ${rulesOf(details.old)})`;
  if (what === "interval kept") return `${what}, ${String(details.reason)} (proposed: ${rulesOf(details.new)})`;
  if (what === "added") return `added, ${rulesOf(details.new)}`;
  if (what === "planned") return `put on ${(details.new as { on?: string } | undefined)?.on ?? ""}`;
  return what;
}
