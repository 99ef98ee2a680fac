import { locksOf, type Procedure, type RunState } from "@core";

import { partsInWords } from "~/sheet/parts-in-words";

/** What a sheet leaves open, or has to be answered for, beside its findings: in sentences. */
export function looseEnds(procedure: Procedure, state: RunState, name: (person: string) => string): string[] {
  const stateName = (id: string): string =>
    (procedure.states ?? []).find((one) => one.id === id)?.name.toLowerCase() ?? id;
  const { on, takenOff } = locksOf(procedure, state);
  return [
    ...state.leftOff.map((one) => `Left off: ${partsInWords(one)}`),
    ...state.ledger.map((one) => `Still off: ${partsInWords(one)}${one.place ? `, ${one.place}` : ""}`),
    ...state.interim.map(({ text, until, ended }) =>
      ended ? `For now, over: ${text}` : `For now: ${text}, until ${until}`,
    ),
    ...on.map(({ state: kept, by }) => `Still locked (${stateName(kept)})${by === null ? "" : ` by ${name(by)}`}`),
    ...state.lockChanges.flatMap((one) =>
      "state" in one ? [`Lock (${stateName(one.state)}) lifted by ${name(one.by)}: ${one.reason}`] : [],
    ),
    ...takenOff.map(
      (one) =>
        `Lock (${stateName(one.state)}) of ${name(one.heldBy)} taken off by ${name(one.takenOffBy)} without a hand-over`,
    ),
  ];
}
