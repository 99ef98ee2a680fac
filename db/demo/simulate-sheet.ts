import {
  additive,
  byParts,
  dilute,
  foldRun,
  type MachineFacts,
  type MixRecipe,
  nextSteps,
  type Procedure,
  type RunEvent,
  type RunEventBody,
  type Step,
} from "../../core/index";
import { must } from "../../core/must";

/** What the demo wants to come out of a sheet; everything else goes as it should. */
export interface SheetScript {
  /** Readings by name; several are given one after another (points, retests). */
  readings?: Record<string, number[]>;
  /** Inspections that are not as they should be. */
  notOk?: string[];
  /** Rounds until a repeat block is clean, default 1. */
  rounds?: number;
  /** Answers of choices and decisions by step id; the first one when not given. */
  answers?: Record<string, string>;
  /** Length of waits by step id, in minutes; one over the minimum when not given. */
  waited?: Record<string, number>;
  /** Actual strength of stock solutions by item, in percent; as on the material list when not given. */
  strengths?: Record<string, number>;
}

/**
 * Works a sheet from the safety gate to the last step, as a careful technician would, and gives its log without the
 * signatures. Times run on from `startMs`; nothing is random.
 */
export function simulateSheet(input: {
  procedure: Procedure;
  machine: MachineFacts;
  sheetId: string;
  by: string;
  startMs: number;
  newId: () => string;
  started: Extract<RunEventBody, { type: "started" }>;
  script?: SheetScript;
}): RunEvent[] {
  const { procedure, machine, sheetId, by, startMs, newId, started, script = {} } = input;
  const entries: RunEvent[] = [];
  const given = new Map(Object.entries(script.readings ?? {}).map(([name, values]) => [name, [...values]]));
  let clock = startMs;
  const log = (body: RunEventBody, minutes = 0.5): void => {
    clock += Math.round(minutes * 60_000);
    entries.push({ id: newId(), runId: sheetId, at: new Date(clock).toISOString(), by, device: "demo", ...body });
  };
  log(started, 0);
  for (;;) {
    const state = foldRun(procedure, entries);
    const next = nextSteps(procedure, state, machine)[0];
    if (!next) return entries;
    const step = must(procedure.steps.find((one) => one.id === next.step));
    for (const use of step.uses ?? []) {
      const material = must(procedure.materials.find((one) => one.item === use.item));
      if (step.kind !== "wait" || state.steps[step.id]?.status !== "running")
        log({ type: "consumable-used", ...next, item: use.item, qty: use.qty, unit: material.unit });
    }
    work(step, next, state.steps[step.id]?.status === "running");
  }

  function work(step: Step, at: { step: string; round: number }, running: boolean): void {
    switch (step.kind) {
      case "safety":
        if (step.coolDown?.belowC !== undefined)
          log({ type: "reading", ...at, value: Math.round(step.coolDown.belowC * 0.8), unit: "°C" }, 20);
        else if (step.coolDown?.minutes !== undefined) {
          log({ type: "timer-started", ...at }, 1);
          clock += step.coolDown.minutes * 60_000;
        }
        {
          log({ type: "safety-confirmed", ...at }, step.minutes ?? 3);
          return;
        }
      case "inspect": {
        const ok = !script.notOk?.includes(step.id);
        log({ type: "step-done", ...at, answer: ok ? "ok" : "not-ok" }, step.minutes ?? 2);
        if (!ok && step.finding) log({ type: "finding", ...at, text: step.ifNot, severity: step.finding }, 1);
        return;
      }
      case "measure":
        for (let point = 0; point < (step.points?.length ?? step.trials ?? 1); point++) {
          log(
            {
              type: "reading",
              ...at,
              value: valueFor(step),
              unit: step.unit,
              ...(step.points || step.trials ? { point } : {}),
            },
            1.5,
          );
        }
        return;
      case "reset": {
        log({ type: "reading", ...at, value: step.expect, unit: "count" }, 1);
        return;
      }
      case "wait": {
        if (!running) log({ type: "timer-started", ...at });
        // The demo does not work meanwhile: it comes back one minute after the minimum.
        log({ type: "timer-stopped", ...at }, script.waited?.[step.id] ?? step.minMinutes + 1);
        return;
      }
      case "count":
        for (let i = 0; i < step.times; i++) log({ type: "counted", ...at }, 0.7);
        return;
      case "replace":
        for (const slot of step.slots) log({ type: "part-fitted", ...at, item: step.item, slot, qty: 1 }, 6);
        return;
      case "turn":
        for (const slot of step.slots) {
          const left = machine.slots?.[slot]?.usesLeft ?? 0;
          if (left > 1) log({ type: "part-turned", ...at, item: step.item, slot, usesLeft: left - 1 }, 4);
          else log({ type: "part-fitted", ...at, item: step.item, slot, qty: 1 }, 6);
        }
        return;
      case "mix": {
        log({ type: "mixed", ...at, ...mixture(step.recipe) }, step.minutes ?? 4);
        return;
      }
      case "choose": {
        log({ type: "step-done", ...at, answer: script.answers?.[step.id] ?? must(step.schools[0]).id }, 1);
        return;
      }
      case "decide": {
        log({ type: "step-done", ...at, answer: script.answers?.[step.id] ?? must(step.branches[0]).id }, 1);
        return;
      }
      case "nested":
        throw new Error(`"${step.id}" must be expanded before the sheet is worked.`);
      case "repeat": {
        log({ type: "step-done", ...at, answer: at.round < (script.rounds ?? 1) ? "again" : "clean" }, 1);
        return;
      }
      case "prove": {
        log({ type: "step-done", ...at, answer: "ok" }, 4);
        return;
      }
      case "do":
      case "hand-off": {
        log({ type: "step-done", ...at }, step.minutes ?? 4);
        return;
      }
    }
  }

  function mixture(
    recipe: MixRecipe,
  ): Pick<Extract<RunEventBody, { type: "mixed" }>, "amounts" | "finalMl" | "stockPercent"> {
    if (recipe.by === "parts") {
      const ml = byParts({
        parts: Object.fromEntries(recipe.parts.map((one) => [one.item, one.parts])),
        finalMl: recipe.finalMl,
      });
      return { amounts: Object.entries(ml).map(([item, amount]) => ({ item, ml: amount })), finalMl: recipe.finalMl };
    }
    if (recipe.by === "additive") {
      const { additiveMl, waterMl } = additive(recipe);
      return {
        amounts: [
          { item: recipe.item, ml: additiveMl },
          { item: "water", ml: waterMl },
        ],
        finalMl: recipe.tankMl,
      };
    }
    const stockPercent =
      script.strengths?.[recipe.stock] ??
      procedure.materials.find((one) => one.item === recipe.stock)?.stockPercent ??
      5;
    const { stockMl, waterMl } = dilute({ stockPercent, target: recipe.target, finalMl: recipe.finalMl });
    return {
      amounts: [
        { item: recipe.stock, ml: stockMl },
        { item: "water", ml: waterMl },
      ],
      finalMl: recipe.finalMl,
      stockPercent,
    };
  }

  function valueFor(step: Extract<Step, { kind: "measure" }>): number {
    // When the script has no more values, what is measured is as it should be: a retest comes to an end.
    const scripted = given.get(step.reading)?.shift();
    if (scripted !== undefined) return scripted;
    if (step.target !== undefined) return step.target;
    const { min, max, above, below } = step.limits ?? {};
    const low = min ?? above;
    const high = max ?? below;
    if (low !== undefined && high !== undefined) return (low + high) / 2;
    return low === undefined ? (high ?? 0) * 0.5 : low * 1.2;
  }
}
