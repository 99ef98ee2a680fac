import { type SheetScript, simulateSheet } from "../../../db/demo/simulate-sheet";
import type { Procedure } from "../procedure";
import type { RunEvent } from "../run-event";

/** The log of a sheet that was worked as its script says, on a machine with some options and every part with some uses left. */
export function workedSheet(
  procedure: Procedure,
  { options, script, usesLeft }: { options: string[]; script: SheetScript; usesLeft: number },
): RunEvent[] {
  const slots = Object.fromEntries(
    procedure.parts.flatMap((part) => part.slots.map((slot) => [slot.id, { item: part.item, usesLeft }])),
  );
  let n = 0;
  return simulateSheet({
    procedure,
    machine: { options, slots },
    sheetId: "run",
    by: "ada",
    startMs: Date.UTC(2026, 5, 10, 8),
    newId: () => `id-${String(++n).padStart(6, "0")}`,
    started: { type: "started", planId: "plan", procedureId: procedure.id, procedureVersion: procedure.version },
    script,
  });
}
