import { plainNumber } from "../numbers";
import { judgeReading, limitWords } from "../sheet/judge";
import { sheetSteps } from "../sheet/next-steps";
import type { MachineFacts, Procedure, Step } from "../sheet/procedure";
import type { LoggedReading, RunState } from "../sheet/run-state";
import type { AsFound } from "./tune-interval";

/** How a machine was found at a service, and from what that is known. */
export interface FoundSaid {
  found: AsFound;
  /** `asked`: somebody said so; `sheet`: it follows from what was logged. */
  told: "asked" | "sheet";
  because: string[];
}

/**
 * How the machine was found at a service: what somebody said, the last word; else what the sheet tells.
 *
 * @returns null where nobody said it and the sheet does not tell
 */
export function asFoundOf(procedure: Procedure, state: RunState, machine: MachineFacts): FoundSaid | null {
  const said = state.asFound;
  return said ? { found: said.found, told: "asked", because: [] } : foundBySheet(procedure, state, machine);
}

/**
 * What the sheet itself tells: what was bad. A machine was found failed with an unsafe finding; poor with a major one, with what was
 * inspected and was not as it should be, or measured out of limits before anything was put right. That all was well follows from
 * nothing: a cabinet may be cold enough with its condenser thick with dust.
 */
export function foundBySheet(procedure: Procedure, state: RunState, machine: MachineFacts): FoundSaid | null {
  const all = [...ofFindings(state), ...ofSteps(procedure, state, machine)];
  const worst = all.some((one) => one.found === "failed") ? "failed" : "poor";
  const because = all.filter((one) => one.found === worst).map((one) => one.because);
  return because.length === 0 ? null : { found: worst, told: "sheet", because: [...new Set(because)] };
}

interface Told {
  found: "poor" | "failed";
  because: string;
}

function ofFindings(state: RunState): Told[] {
  return state.findings.flatMap(({ text, severity }): Told[] => {
    if (severity !== "major" && severity !== "unsafe") return [];
    return [{ found: severity === "unsafe" ? "failed" : "poor", because: `finding, ${severity}: ${text}` }];
  });
}

function ofSteps(procedure: Procedure, state: RunState, machine: MachineFacts): Told[] {
  const shown = new Set(sheetSteps(procedure, state, machine).map((one) => one.step));
  return procedure.steps.flatMap((step): Told[] => {
    if (!shown.has(step.id)) return [];
    const rounds = Object.values(state.steps).filter((at) => at.step === step.id);
    if (step.kind === "measure") return rounds.flatMap((at) => ofReadings(step, at.readings));
    const isBad = step.kind === "inspect" && rounds.some((at) => at.answer === "not-ok");
    return isBad ? [{ found: "poor", because: `not as it should be: ${step.title}` }] : [];
  });
}

type Measure = Extract<Step, { kind: "measure" }>;

/** Each place by what was read of it last before anything was put right. How far a part is worn is for the part's own duty. */
function ofReadings(step: Measure, readings: readonly LoggedReading[]): Told[] {
  const { limits, unit, title } = step;
  if (!limits || step.stage !== "as-found" || step.wears) return [];
  const found = readings.filter((one) => one.stage === "as-found" && !one.impossible);
  return [...new Map(found.map((one) => [one.point, one])).values()]
    .filter(({ value }) => judgeReading(value, limits) !== "in")
    .map(({ value }) => ({
      found: "poor",
      because: `${title}: ${plainNumber(value)} ${unit}, allowed is ${limitWords(limits, unit)}`,
    }));
}
