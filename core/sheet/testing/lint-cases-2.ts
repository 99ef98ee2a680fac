import type { MachineState, Material, Procedure, Step } from "../procedure";
import { doing, PROOF, sample } from "./sample";

export const ISOLATED: MachineState = {
  id: "isolated",
  name: "Isolated",
  excludes: ["standing"],
  in: { checks: ["Off, locked and tagged"], gates: ["lock-out", "tag"] },
  out: { checks: ["Tools out, guards on, lock off"] },
};
export const STANDING: MachineState = { id: "standing", name: "Standing with power", in: { checks: ["People clear"] } };
export const COOL: MachineState = {
  id: "cool",
  name: "Cool",
  lostBy: ["standing"],
  in: { checks: ["Cool"], belowC: 40 },
};

export const off = (more: object = {}): Step =>
  doing("off", { state: ["isolated"], opens: "pan", takesOff: [{ item: "pan", count: 2 }], ...more });
export const soak: Step = { id: "soak", kind: "wait", title: "Soak", path: "pan", minMinutes: 10 };
export const on = (more: object = {}): Step =>
  doing("on", { state: ["isolated"], putsBack: [{ item: "pan", count: 2 }], ...more });
export const proof: Step = { ...PROOF, state: ["standing"] };

/** A sound procedure of format version 2: a part off, on the bench, and back on; then with power. */
export const base2 = (inner: Step[] = [off(), soak, on(), proof], more: Partial<Procedure> = {}): Procedure =>
  sample([], { formatVersion: 2, states: [ISOLATED, STANDING, COOL], steps: inner, ...more });

const ask = (id: string): Step => ({
  id,
  kind: "decide",
  title: "Dirty?",
  question: "Dirty?",
  branches: [
    { id: "yes", name: "Yes" },
    { id: "no", name: "No" },
  ],
});
const measure = (limits: object, possible?: object): Step => ({
  id: "gap",
  kind: "measure",
  title: "Gap",
  reading: "gap",
  unit: "mm",
  limits,
  ...(possible ? { possible } : {}),
});
const dirty = { when: [{ step: "ask", is: "yes" }] };
const HOT: Partial<Procedure> = { hazards: [{ kind: "hot", text: "Hot" }] };
const steps = (...all: Step[]): Procedure => base2(all);
const plan = (covers: string[]): Partial<Procedure> => ({
  plan: { triggers: [{ kind: "event", event: "x" }], covers },
});
/** A step that wipes with one material. */
const wiping = (material: Partial<Material>, step: object): Procedure =>
  base2([off(), soak, on(), doing("wipe", { uses: [{ item: "agent", qty: 1 }], ...step }), proof], {
    materials: [{ item: "agent", name: "Agent", qty: 1, unit: "mL", ...material }],
  });
const minutes = (step: Step, of: number): Step => ({ ...step, minutes: of });

/** Each rule of format version 2 with a procedure that trips it and one that is just as like it and does not. */
export const CASES_2: [rule: string, name: string, trips: Procedure, clean: Procedure][] = [
  ["make-safe-first", "taken apart in no state", steps(off({ state: [] }), soak, on(), proof), base2()],
  [
    "make-safe-first",
    "taken apart with power, which it names",
    steps(doing("turn", { kind: "turn", item: "tip", slots: [] }), proof),
    steps(doing("turn", { kind: "turn", item: "tip", slots: [], state: ["standing"] }), proof),
  ],
  [
    "cool-down",
    "hot and not cool",
    base2([off(), soak, on(), proof], HOT),
    base2([off({ state: ["isolated", "cool"] }), soak, on(), proof], HOT),
  ],
  [
    "agent-harms",
    "a caustic on aluminium",
    wiping({ chemical: "caustic" }, { surfaces: ["stainless-steel", "aluminium"] }),
    wiping({ chemical: "caustic" }, { surfaces: ["stainless-steel"] }),
  ],
  [
    "agent-harms",
    "tap water on optics",
    wiping({ grade: "tap-water" }, { surfaces: ["optics"] }),
    wiping({ grade: "deionised-water" }, { surfaces: ["optics"] }),
  ],
  [
    "grade-forbidden",
    "alcohol with too much water in it",
    wiping({ grade: "alcohol-70" }, { forbids: ["alcohol-70", "alcohol-91"] }),
    wiping({ grade: "alcohol-99" }, { forbids: ["alcohol-70", "alcohol-91"] }),
  ],
  [
    "states-clash",
    "power behind a lock",
    steps(doing("both", { state: ["isolated", "standing"] }), proof),
    steps(doing("one", { state: ["isolated"] }), doing("other", { state: ["standing"] }), proof),
  ],
  [
    "states-clash",
    "cool with power on it",
    steps(doing("both", { state: ["cool", "standing"] }), proof),
    steps(doing("both", { state: ["cool", "isolated"] }), proof),
  ],
  [
    "lock-released",
    "a lock without a way out",
    base2(undefined, { states: [{ id: "isolated", name: "Isolated", in: ISOLATED.in }, STANDING] }),
    base2(undefined, {
      states: [{ id: "isolated", name: "Isolated", in: ISOLATED.in }, STANDING],
      leaves: { states: ["isolated"] },
    }),
  ],
  [
    "asked-beforehand",
    "behind a lock",
    steps(doing("empty", { state: ["isolated"], beforehand: "Please empty the bin" }), proof),
    steps(doing("empty", { state: ["standing"], beforehand: "Please empty the bin" }), proof),
  ],
  [
    "asked-beforehand",
    "a wait",
    steps(off(), { ...soak, beforehand: "Please let it soak" }, on(), proof),
    steps(doing("empty", { beforehand: "Please empty the bin" }), proof),
  ],
  ["path-ends", "no refit", steps(off(), soak, proof), base2([off(), soak], { leaves: { off: ["pan"] } })],
  ["path-ends", "a refit too early", steps(off(), on(), soak, proof), base2()],
  ["path-ends", "a path that nothing opens", steps(off({ opens: undefined }), soak, on(), proof), base2()],
  ["counts", "fewer back than off", steps(off(), soak, on({ putsBack: [{ item: "pan", count: 1 }] }), proof), base2()],
  ["counts", "back without having come off", steps(on(), proof), base2([on(), proof], { begins: { off: ["pan"] } })],
  [
    "counts",
    "off on every machine, back on some",
    base2([off(), soak, on({ when: [{ option: "lid", fitted: true }] }), proof]),
    base2([
      off(),
      soak,
      on({ when: [{ option: "lid", fitted: true }] }),
      on({ id: "on-2", when: [{ option: "lid", fitted: false }] }),
      proof,
    ]),
  ],
  [
    "counts",
    "off at times, back always",
    steps(ask("ask"), off(dirty), soak, on({ putsBack: [{ item: "pan", count: 3 }] }), proof),
    steps(ask("ask"), off(dirty), soak, on(), proof),
  ],
  ["proof-whole", "proven while a part is off", steps(off(), soak, proof, on()), base2()],
  [
    "band",
    "a minimum above its maximum",
    steps(measure({ min: 3, max: 2 }), proof),
    steps(measure({ min: 2, max: 3 }), proof),
  ],
  [
    "band",
    "a band without anything in it",
    steps(measure({ above: 3, below: 3 }), proof),
    steps(measure({ min: 3, max: 3 }), proof),
  ],
  [
    "band",
    "a band beyond what is possible",
    steps(measure({ min: 3 }, { max: 2.9 }), proof),
    steps(measure({ min: 3 }, { max: 3 }), proof),
  ],
  [
    "band",
    "nothing possible",
    steps(measure({ max: 9 }, { min: 2, max: 1 }), proof),
    steps(measure({ max: 9 }, { min: 1, max: 2 }), proof),
  ],
  [
    "choice",
    "an answer that nothing depends on",
    steps(ask("ask"), proof),
    steps(ask("ask"), doing("wash", dirty), proof),
  ],
  [
    "covered-worked",
    "covers what is not on it",
    base2(undefined, plan(["daily"])),
    base2([doing("wipe", { workedFor: [{ procedure: "daily", step: "wipe", within: "d" }] }), proof], plan(["daily"])),
  ],
  [
    "critical-stays",
    "an answer makes it go away",
    steps(ask("ask"), doing("wash", { ...dirty, critical: true }), proof),
    steps(measure({ max: 1 }), doing("wash", { when: [{ step: "gap", is: "out" }], critical: true }), proof),
  ],
  [
    "time",
    "an hour for ten minutes",
    base2([minutes(doing("a"), 5), minutes(proof, 5)], { minutes: { handsOn: 60, waiting: 0 } }),
    base2([minutes(doing("a"), 5), minutes(proof, 5)], { minutes: { handsOn: 12, waiting: 0 } }),
  ],
];
