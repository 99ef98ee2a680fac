import { must } from "../../must";
import type { MachineState, Procedure, Step } from "../procedure";
import { sample } from "./sample";

const STATES: MachineState[] = [
  {
    id: "isolated",
    name: "Isolated",
    excludes: ["standing", "moving"],
    in: { checks: ["Off and locked"], gates: ["lock-out"], minutes: 2 },
    out: { checks: ["Tools out, guards on, lock off"], minutes: 2 },
  },
  { id: "cool", name: "Cool", lostBy: ["standing", "moving"], in: { checks: ["Cool"], waitMinutes: 30 } },
  {
    id: "drained",
    name: "Drained",
    in: { checks: ["Empty"] },
    out: { checks: ["Drain shut"] },
  },
  { id: "standing", name: "Standing", excludes: ["isolated"], in: { checks: ["People clear"] } },
  {
    id: "moving",
    name: "Moving",
    excludes: ["standing"],
    lostBy: ["isolated"],
    in: { checks: ["People clear"] },
    out: { checks: ["Stopped"] },
  },
];
/** What a step may need together. */
const NEEDS = [
  [],
  [],
  ["isolated"],
  ["isolated"],
  ["cool", "isolated"],
  ["drained"],
  ["isolated", "drained"],
  ["standing"],
  ["moving"],
];

/**
 * Draws a procedure whose machine goes through states and whose parts go their own way, with options, answers and at times a
 * block that is done again; while it waits, some of what comes later may be done. `random` gives numbers from 0 to below 1.
 */
export function drawnProcedure(random: () => number): Procedure {
  const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
  const chance = (p: number): boolean => random() < p;
  const pick = <T>(list: readonly T[]): T => must(list[whole(0, list.length - 1)]);
  const needing = (): { state?: string[] } => {
    const state = pick(NEEDS);
    return state.length > 0 ? { state } : {};
  };
  const steps: Step[] = [];
  /** Paths with their steps still to come, and then their refit. */
  const open: { bench: Step[]; refit: Step }[] = [];
  const left: string[] = [];
  const asked: string[] = [];
  const when = (): Pick<Step, "when"> => {
    if (chance(0.2)) return { when: [{ option: "extra", fitted: chance(0.5) }] };
    return asked.length > 0 && chance(0.25) ? { when: [{ step: pick(asked), is: "yes" }] } : {};
  };
  for (let n = whole(4, 14), i = 0; i < n; i++) {
    const id = `s${i}`;
    const kind = random();
    if (kind < 0.3) {
      const path = `p${i}`;
      const [count, opens] = [whole(1, 4), chance(0.8)];
      const leaves = chance(0.1);
      steps.push({
        id,
        kind: "do",
        title: `Take ${id} off`,
        state: ["isolated"],
        takesOff: [{ item: `part ${i}`, count }],
        ...(opens ? { opens: path } : {}),
        ...when(),
      });
      const bench = Array.from({ length: opens ? whole(1, 3) : 0 }, (_, b): Step => {
        const one = { id: `${id}-b${b}`, title: `On the bench ${b}`, path };
        if (chance(0.4)) return { ...one, kind: "wait", minMinutes: whole(1, 20) };
        return { ...one, kind: "do", ...(chance(0.15) ? { state: ["isolated"] } : {}), ...(chance(0.2) ? when() : {}) };
      });
      const refit: Step = {
        id: `${id}-on`,
        kind: "do",
        title: `Put ${id} back`,
        state: ["isolated"],
        putsBack: [{ item: `part ${i}`, count }],
      };
      open.push({ bench, refit });
      if (leaves) left.push(`part ${i}`);
    } else if (kind < 0.42) {
      asked.push(id);
      steps.push({
        id,
        kind: "decide",
        title: id,
        question: "?",
        branches: [
          { id: "yes", name: "Yes" },
          { id: "no", name: "No" },
        ],
        ...needing(),
      });
    } else if (kind < 0.52)
      steps.push({ id, kind: "wait", title: id, minMinutes: whole(1, 10), ...needing(), ...when() });
    else steps.push({ id, kind: "do", title: id, ...needing(), ...when() });
    goOn(i === n - 1);
  }
  steps.forEach((step, i) => {
    const meanwhile = steps.slice(i + 1).filter((one) => one.path === step.path && chance(0.4));
    if (step.kind === "wait" && meanwhile.length > 0) step.meanwhile = meanwhile.map((one) => one.id);
  });
  if (chance(0.3)) {
    const end = whole(1, steps.length);
    steps.splice(end, 0, {
      id: "again",
      kind: "repeat",
      title: "Again?",
      question: "?",
      clean: "Clean",
      again: "Again",
      maxRounds: 3,
      from: must(steps[whole(0, end - 1)]).id,
    });
  }
  const keepsLock = chance(0.15);
  if (!keepsLock || chance(0.5))
    steps.push({ id: "proof", kind: "prove", title: "Proof", expect: "Works", ...(keepsLock ? {} : needing()) });
  return sample([], {
    formatVersion: 2,
    states: STATES,
    options: [{ id: "extra", name: "Extra" }],
    ...(keepsLock || left.length > 0
      ? { leaves: { ...(keepsLock ? { states: ["isolated", "drained"] } : {}), off: left } }
      : {}),
    steps,
  });

  /** Some of what is on the bench goes on; at the end all of it. */
  function goOn(all: boolean): void {
    for (const one of [...open]) {
      while (one.bench.length > 0 && (all || chance(0.4))) steps.push(must(one.bench.shift()));
      if (one.bench.length > 0 || (!all && chance(0.6))) continue;
      open.splice(open.indexOf(one), 1);
      const item = must(one.refit.putsBack?.[0]).item;
      if (!left.includes(item)) steps.push(one.refit);
    }
  }
}
