import { type FindStep, type RunState, type SheetStep, UNKNOWN_CAUSE } from "@core";

import { causeName, chanceWords, checkLine, symptomOf } from "~/sheet/find/find-view";

/** What somebody who goes on with a fault has to know, a line each. */
export interface Packet {
  /** In the operator's words. */
  symptom: string;
  /** What was found, or that nothing was. */
  found: string;
  /** What the guide says they are told. */
  say: string | null;
  to: string | null;
  lists: [title: string, lines: string[]][];
}

/**
 * What a fault's sheet says to who goes on with it.
 *
 * @param causes with their chances after the checks
 * @param history earlier services and faults of the machine, a line each
 */
export function packetOf(
  step: FindStep,
  state: RunState,
  steps: readonly SheetStep[],
  {
    causes,
    readings,
    history,
    nameOf,
  }: {
    causes: readonly { name: string; chance: number }[];
    readings: readonly string[];
    history: { services: readonly string[]; faults: readonly string[] };
    nameOf: (person: string, at: string) => string;
  },
): Packet {
  const searches = Object.values(state.steps)
    .filter((one) => one.step === step.id)
    .sort((a, b) => a.round - b.round);
  const last = searches.at(-1);
  const cause = step.causes.find((one) => one.id === last?.answer);
  const checks = searches.flatMap((one) => one.checks ?? []);
  const open = state.interim.filter((one) => one.ended === null);
  return {
    symptom: symptomOf(step, state)?.says ?? "not said",
    found: foundWords(step, last),
    say: cause?.handOff?.say ?? null,
    to: cause?.handOff?.to ?? null,
    lists: [
      ["Checks, and what each showed", checks.map((one) => `${checkLine(step, one)} (${nameOf(one.by, one.at)})`)],
      [
        "What it can still be",
        causes.filter(({ chance }) => chance > 0).map(({ name, chance }) => `${name}: ${chanceWords(chance)}`),
      ],
      [
        "Done so far",
        steps.flatMap((one) =>
          one.definition.kind === "do" && one.state?.status === "done" && one.state.by !== null && one.state.at !== null
            ? [`${one.definition.title} (${nameOf(one.state.by, one.state.at)})`]
            : [],
        ),
      ],
      ["Findings and notes", [...state.findings, ...state.notes].map((one) => one.text)],
      ["Holds for now", open.map((one) => `${one.text}, until ${one.until}`)],
      ["Readings", [...readings]],
      ["Earlier faults", [...history.faults]],
      ["Last services", [...history.services]],
    ],
  };
}

function foundWords(step: FindStep, last: { answer: string | null; reason: string | null } | undefined): string {
  if (!last || last.answer === null) return "still being looked for";
  return `${causeName(step, last.answer)}${last.answer === UNKNOWN_CAUSE && last.reason ? `: ${last.reason}` : ""}`;
}
