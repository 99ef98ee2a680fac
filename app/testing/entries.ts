import type { RunEvent, RunEventBody } from "@core";

/** Entries of one sheet by one person, a minute apart. */
export const entriesOf = (bodies: readonly RunEventBody[]): RunEvent[] =>
  bodies.map((body, i): RunEvent => ({
    id: `e${i}`,
    runId: "r",
    at: `2026-06-10T08:${String(i).padStart(2, "0")}:00Z`,
    by: "a",
    device: "d",
    ...body,
  }));
