/**
 * How the core grows with what it is given: time at 1,000, 3,000 and 10,000 entries, steps or items of history, and the slope
 * of their logarithms (1 = twice as much takes twice as long; 1.3 is the most that is allowed).
 */
import {
  assessDue,
  type DueInput,
  foldRun,
  lintProcedure,
  nextSteps,
  type Procedure,
  type RunEvent,
  type Step,
} from "../core/index";
import { must } from "../core/must";
import { sample } from "../core/sheet/testing/sample";

const SIZES = [1000, 3000, 10_000];
const BARE = { options: [], slots: {} };
const print = (...cells: string[]): void =>
  void process.stdout.write(`${cells.map((cell, i) => (i === 0 ? cell.padEnd(52) : cell.padStart(11))).join("")}\n`);

/** Least time of some runs, milliseconds: the machine is never faster than it is. */
function least(work: () => void): number {
  let best = Infinity;
  for (let i = 0; i < 5; i++) {
    const began = performance.now();
    work();
    best = Math.min(best, performance.now() - began);
  }
  return best;
}

/** Slope of log time over log size, by least squares. */
function slope(times: readonly number[]): number {
  const points = SIZES.map((size, i) => [Math.log(size), Math.log(must(times[i]))] as const);
  const mean = (of: (point: readonly [number, number]) => number): number =>
    points.reduce((sum, point) => sum + of(point), 0) / points.length;
  const [x, y] = [mean((point) => point[0]), mean((point) => point[1])];
  const over = points.reduce((sum, point) => sum + (point[0] - x) * (point[1] - y), 0);
  return over / points.reduce((sum, point) => sum + (point[0] - x) ** 2, 0);
}

function grows(name: string, make: (size: number) => () => void): void {
  const times = SIZES.map((size) => least(make(size)));
  print(name, ...times.map((ms) => `${ms.toFixed(1)} ms`), slope(times).toFixed(2));
}

const day = (n: number): string => new Date(Date.UTC(2000, 0, 1) + n * 86_400_000).toISOString().slice(0, 10);
const event = (n: number, body: object): RunEvent =>
  ({
    id: `0190a000-0000-7000-8000-${String(n).padStart(12, "0")}`,
    runId: "0190a000-0000-7000-8000-000000000000",
    at: new Date(Date.UTC(2026, 0, 1) + n * 1000).toISOString(),
    by: "ada",
    device: "phone",
    ...body,
  }) as RunEvent;
const idOf = (n: number): string => event(n, {}).id;
const gap: Step = { id: "gap", kind: "measure", title: "Gap", reading: "gap", unit: "mm", limits: { max: 2 } };
const short: Procedure = { ...sample(), steps: [gap] };
const fold =
  (body: (n: number) => object) =>
  (size: number): (() => void) => {
    const events = Array.from({ length: size }, (_, n) => event(n, body(n)));
    return () => void foldRun(short, events);
  };
const reading = { type: "reading", step: "gap", round: 1, value: 1, unit: "mm" };

process.stdout.write("\nGrowth: time at 1,000, 3,000 and 10,000, and its slope\n");
grows(
  "fold: readings of one step",
  fold(() => reading),
);
grows(
  "fold: corrections of one entry",
  fold((n) => (n === 0 ? reading : { type: "corrected", ref: idOf(0), set: { value: n }, why: "" })),
);
grows(
  "fold: corrections of corrections",
  fold((n) => (n === 0 ? reading : { type: "corrected", ref: idOf(n - 1), set: { value: n }, why: "" })),
);
grows(
  "fold: entries undone, and undoing undone",
  fold((n) => (n % 2 === 0 ? reading : { type: "undone", ref: idOf(Math.max(0, n - 3)) })),
);
grows(
  "fold: notes",
  fold((n) => ({ type: "note", text: `note ${n}` })),
);

/** A procedure of so many steps, all kinds of rules met: gates, chemicals, parts off and on, conditions, blocks. */
function long(size: number): Procedure {
  const steps = Array.from({ length: size }, (_, n): Step => {
    const base = { id: `s${n}`, title: `Step ${n}` };
    switch (n % 10) {
      case 0:
        return {
          ...base,
          kind: "safety",
          checks: ["Off"],
          gates: ["lock-out"],
          when: [{ option: `o${n % 7}`, fitted: n % 20 === 0 }],
        };
      case 1:
        return { ...base, kind: "do", removes: [`part ${n}`] };
      case 2:
        return { ...base, kind: "do", refits: [`part ${n - 1}`], uses: [{ item: "acid", qty: 1 }] };
      case 3:
        return { ...base, kind: "do", uses: [{ item: "bleach", qty: 1 }], rinses: n % 20 === 3 };
      case 4:
        return { ...base, kind: "repeat", from: `s${n - 1}`, question: "?", clean: "Clean", again: "Again" };
      case 5:
        return { ...base, kind: "replace", item: `p${n % 50}`, slots: [`slot ${n % 50}`] };
      default:
        return { ...base, kind: "measure", reading: "gap", unit: "mm", limits: { max: 2 } };
    }
  });
  return {
    ...sample(),
    steps,
    hazards: [{ kind: "hot", text: "Hot" }],
    materials: ["acid", "bleach"].map((item) => ({
      item,
      name: item,
      qty: 1,
      unit: "mL" as const,
      chemical: item === "acid" ? ("acid" as const) : ("hypochlorite" as const),
    })),
    parts: Array.from({ length: 50 }, (_, n) => ({
      item: `p${n}`,
      name: `Part ${n}`,
      pair: true,
      slots: [{ id: `slot ${n}`, name: "Slot" }],
    })),
  };
}
grows("next steps: of a sheet half worked", (size) => {
  const procedure = long(size);
  const state = foldRun(
    procedure,
    procedure.steps
      .slice(0, size / 2)
      .map((step, n) => event(n, { type: "step-not-applicable", step: step.id, round: 1, reason: "" })),
  );
  return () => void nextSteps(procedure, state, BARE);
});
grows("lint: steps", (size) => {
  const procedure = long(size);
  return () => void lintProcedure(procedure);
});

const due = (more: (size: number) => Partial<DueInput>, basis: "completion" | "grid") => (size: number) => {
  const input: DueInput = {
    plan: { id: "p", startOn: day(0), triggers: [{ kind: "meter", meter: "h", every: 250, basis }] },
    completions: [],
    meters: { h: [] },
    readings: {},
    events: [],
    today: day(size + 1),
    ...more(size),
  };
  return () => void assessDue(input);
};
const days = (size: number): string[] => Array.from({ length: size }, (_, n) => day(n));
const values = (size: number): Partial<DueInput> => ({
  completions: days(size).map((on, n) => ({ planId: "p", on, meters: { h: n * 8 } })),
});
grows("due: values at completions", due(values, "completion"));
grows("due: values at completions, fixed points", due(values, "grid"));
grows(
  "due: readings and completions",
  due((size) => ({ ...values(size), meters: { h: days(size).map((on, n) => ({ on, value: n * 8 })) } }), "grid"),
);
grows(
  "due: readings of one day",
  due(
    (size) => ({ meters: { h: days(size).map((_, n) => ({ on: day(1), value: (n * 7919) % 10_007 })) } }),
    "completion",
  ),
);
