import { foldRun, nextSteps, type MachineFacts, type Procedure, type RunEvent, type RunEventBody, type Step } from "../../core/index";

/** What the demo wants to come out of a sheet; everything else goes as it should. */
export interface RunScript {
  /** Readings by name; several are given one after another (points, retests). */
  readings?: Record<string, number[]>;
  /** Inspections that are not as they should be. */
  notOk?: string[];
  /** Rounds until a repeat block is clean, default 1. */
  rounds?: number;
}

/**
 * Works a sheet from the safety gate to the last step, as a careful technician would, and gives its log without the
 * signatures. Times run on from `startMs`; nothing is random.
 */
export function simulateRun(input: {
  procedure: Procedure;
  machine: MachineFacts;
  runId: string;
  by: string;
  startMs: number;
  newId: () => string;
  started: Extract<RunEventBody, { type: "started" }>;
  script?: RunScript;
}): RunEvent[] {
  const { procedure, machine, runId, by, startMs, newId, started, script = {} } = input;
  const events: RunEvent[] = [];
  const given = new Map(Object.entries(script.readings ?? {}).map(([name, values]) => [name, [...values]]));
  let clock = startMs;
  const log = (body: RunEventBody, minutes = 0.5): void => {
    clock += minutes * 60_000;
    events.push({ id: newId(), runId, at: new Date(clock).toISOString(), by, device: "demo", ...body });
  };
  log(started, 0);
  for (;;) {
    const state = foldRun(procedure, events);
    const next = nextSteps(procedure, state, machine)[0];
    if (!next) return events;
    const step = procedure.steps.find((one) => one.id === next.step)!;
    for (const use of step.uses ?? []) {
      const material = procedure.materials.find((one) => one.item === use.item)!;
      if (step.kind !== "wait" || state.steps[step.id]?.status !== "running")
        log({ type: "consumable-used", ...next, item: use.item, qty: use.qty, unit: material.unit });
    }
    work(step, next, state.steps[step.id]?.status === "running");
  }

  function work(step: Step, at: { step: string; round: number }, running: boolean): void {
    switch (step.kind) {
      case "safety":
        return log({ type: "safety-confirmed", ...at }, 3);
      case "inspect":
        return log({ type: "step-done", ...at, answer: script.notOk?.includes(step.id) ? "not-ok" : "ok" }, 2);
      case "measure":
        for (let point = 0; point < (step.points?.length ?? 1); point++) {
          log({ type: "reading", ...at, value: valueFor(step), unit: step.unit, ...(step.points ? { point } : {}) }, 1.5);
        }
        return;
      case "reset":
        return log({ type: "reading", ...at, value: step.expect, unit: "count" }, 1);
      case "wait": {
        if (!running) log({ type: "timer-started", ...at });
        // The demo does not work meanwhile: it comes back one minute after the minimum.
        return log({ type: "timer-stopped", ...at }, step.minMinutes + 1);
      }
      case "count":
        for (let i = 0; i < step.times; i++) log({ type: "counted", ...at }, 0.7);
        return;
      case "replace":
        for (const slot of step.slots) log({ type: "part-fitted", ...at, item: step.item, slot, qty: 1 }, 6);
        return;
      case "repeat":
        return log({ type: "step-done", ...at, answer: at.round < (script.rounds ?? 1) ? "again" : "clean" }, 1);
      case "prove":
        return log({ type: "step-done", ...at, answer: "ok" }, 4);
      case "do":
      case "hand-off":
        return log({ type: "step-done", ...at }, 4);
    }
  }

  function valueFor(step: Extract<Step, { kind: "measure" }>): number {
    const queue = given.get(step.reading);
    const scripted = queue && queue.length > 1 ? queue.shift() : queue?.[0];
    if (scripted !== undefined) return scripted;
    const { min, max, above, below } = step.limits ?? {};
    return step.target ?? (min !== undefined && max !== undefined ? (min + max) / 2 : (min ?? above ?? ((max ?? below ?? 0) > 0 ? 0 : 0)));
  }
}
