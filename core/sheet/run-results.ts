import { sheetSteps } from "./next-steps";
import type { MachineFacts, Procedure } from "./procedure";
import type { AskedValue } from "./run-event";
import type { RunState } from "./run-state";

interface ResultValue {
  eventId: string;
  step: string;
  value: number;
  at: string;
  asked?: AskedValue;
}

/** What a finished sheet means to the machine: meter values, and readings that trends and conditions go on with. */
export interface RunResults {
  /** Face values in the order they were read; a reset counter's zero comes after the value read before it. */
  meterReadings: (ResultValue & { meter: string })[];
  /** Last value of each meter, for the completion. */
  meters: Record<string, number>;
  readings: (ResultValue & { reading: string; unit: string })[];
}

/** Collects the results of a sheet; readings of branches that do not apply are left out. */
export function runResults(procedure: Procedure, state: RunState, machine: MachineFacts): RunResults {
  const results: RunResults = { meterReadings: [], meters: {}, readings: [] };
  const shown = new Set(sheetSteps(procedure, state, machine).map((one) => one.step));
  for (const definition of procedure.steps) {
    if (!shown.has(definition.id) || (definition.kind !== "measure" && definition.kind !== "reset")) continue;
    const logged = Object.values(state.steps)
      .filter((at) => at.step === definition.id)
      .sort((a, b) => a.round - b.round)
      .flatMap((at) => at.readings);
    for (const { eventId, value, unit, at, asked, impossible } of logged) {
      if (impossible) continue;
      const result = { eventId, step: definition.id, value, at, ...(asked ? { asked } : {}) };
      if (definition.meter !== undefined) {
        results.meterReadings.push({ ...result, meter: definition.meter });
        results.meters[definition.meter] = value;
      } else if (definition.kind === "measure") {
        results.readings.push({ ...result, reading: definition.reading, unit });
      }
    }
  }
  return results;
}
