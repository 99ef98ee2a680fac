import { findStepOf, type Procedure, PROOF_STEP, type RunState, stepKey, UNKNOWN_CAUSE } from "@core";

import { symptomOf } from "./find-view";

/** What each search of a fault's sheet came to. */
export interface SearchOutcome {
  round: number;
  symptom: string;
  cause: string;
  foundBy: string | null;
  outcome: "cured" | "handed-over" | "not-cured";
  at: string;
  by: string;
}

/** What the searches of a signed sheet came to, in their order; of other sheets nothing. */
export function searchOutcomes(procedure: Procedure, state: RunState): SearchOutcome[] {
  const step = findStepOf(procedure);
  const symptom = step && symptomOf(step, state)?.id;
  if (!step || !symptom) return [];
  return Object.values(state.steps)
    .filter((one) => one.step === step.id)
    .sort((a, b) => a.round - b.round)
    .flatMap(({ round, status, answer, checks = [], at, by }) => {
      if (status !== "done" || answer === null || at === null || by === null) return [];
      const proof = state.steps[stepKey(PROOF_STEP, round)]?.answer;
      const cause = step.causes.find((one) => one.id === answer);
      const isHanded =
        answer === UNKNOWN_CAUSE ||
        cause?.who === "authorised" ||
        cause?.who === "licensed" ||
        state.steps[stepKey(`${answer}-hand-off`, round)]?.status === "done";
      const outcome = proof === "not-ok" ? "not-cured" : isHanded ? "handed-over" : "cured";
      const foundBy = checks.findLast((one) => one.result === "found" && one.cause === answer)?.check ?? null;
      return [{ round, symptom, cause: answer, foundBy, outcome, at, by }];
    });
}
