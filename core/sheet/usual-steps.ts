import { must } from "../must";
import { sheetStep } from "./next-steps";
import type { MachineFacts, Procedure, Step } from "./procedure";
import { emptyState } from "./run-state";
import { withoutIdlePaths } from "./sheet-paths";
import { withoutIdleGates } from "./standing-gates";

/**
 * Steps of a sheet on which nothing is found (fitted options only, every reading in its band, the usual way where there are
 * several), and those that something found would add.
 *
 * @param procedure with nested procedures in place
 */
export function usualSteps(
  procedure: Procedure,
  machine: Pick<MachineFacts, "options">,
): { steps: Step[]; likely: Step[] } {
  const answers = new Map<string, string>();
  const steps: Step[] = [];
  const likely: Step[] = [];
  for (const step of procedure.steps) {
    const conditions = step.when ?? [];
    if (conditions.some((one) => "option" in one && machine.options.includes(one.option) !== one.fitted)) continue;
    if (conditions.some((one) => "step" in one && answers.get(one.step) !== one.is)) {
      likely.push(step);
      continue;
    }
    answers.set(step.id, usualAnswer(step));
    steps.push(step);
  }
  const blank = emptyState();
  const shown = steps.map((definition) => sheetStep(definition, 1, null));
  const standing = withoutIdleGates(procedure, withoutIdlePaths(procedure, shown, blank), blank);
  return { steps: standing.map((one) => one.definition), likely };
}

function usualAnswer(step: Step): string {
  switch (step.kind) {
    case "measure":
      return "in";
    case "choose":
      return must(step.schools[0]).id;
    case "decide":
      return must(step.branches[0]).id;
    default:
      return "ok";
  }
}
