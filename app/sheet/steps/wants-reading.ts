import type { SheetStep, Step } from "@core";

import { clock } from "~/sheet/timers";

type Wait = Extract<Step, { kind: "wait" }>;

/** By how much a wait was too short or too long, and what follows from it; null when it was neither. */
export function waitVerdict(
  { minMinutes, maxMinutes, ifShort, ifLong }: Pick<Wait, "minMinutes" | "maxMinutes" | "ifShort" | "ifLong">,
  { minutes, verdict }: NonNullable<NonNullable<SheetStep["state"]>["timer"]>,
): { says: string; then: string } | null {
  if (minutes === null || verdict === null || verdict === "in") return null;
  if (verdict === "short")
    return {
      says: `Stopped after ${clock(minutes)}: ${clock(minMinutes - minutes)} short of ${minMinutes} min.`,
      then: ifShort ?? "It may not have worked yet. Go on when nothing was taken out.",
    };
  const most = maxMinutes ?? minMinutes;
  return {
    says: `Out after ${clock(minutes)}: ${clock(minutes - most)} over the maximum of ${most} min.`,
    then:
      ifLong ?? "Look at seals, coatings and soft metal of what was in it before it goes back, and log what you find.",
  };
}

/**
 * A clock that was stopped too early or too late, a reading out of its limits: the page stays with it until somebody has
 * read what that means and said what is done about it. Where the procedure itself goes on from it, it does.
 */
export function wantsReading(one: SheetStep | null, steps: readonly Step[]): boolean {
  if (!one?.settled || !one.state) return false;
  const { definition, state } = one;
  if (definition.kind === "wait") return state.timer !== null && waitVerdict(definition, state.timer) !== null;
  if (definition.kind !== "measure" || !definition.limits || state.status !== "done") return false;
  return (state.answer === "low" || state.answer === "high") && !leadsOn(definition.id, steps);
}

/** A later step is there for the case that the reading is out. */
const leadsOn = (id: string, steps: readonly Step[]): boolean =>
  steps.some(({ when }) => [when ?? []].flat().some((one) => "step" in one && one.step === id));
