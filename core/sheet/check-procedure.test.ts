import { checkProcedure } from "./check-procedure";
import type { Procedure, Step } from "./procedure";
import { BLADES, doing, sample } from "./testing/sample";
import { earlier, shipped, shippedIds } from "./testing/shipped";

const base = earlier("flake-ice-maker-clean-sanitise");
const withStep = (step: Partial<Step> & { id: string; kind: string }): Procedure => ({
  ...base,
  steps: [...base.steps, { title: "x", ...step } as Step],
});
const paths = (procedure: Procedure) => checkProcedure(procedure).map((fault) => fault.path);

it.each(shippedIds())("%s holds together", (id) => {
  expect(checkProcedure(shipped(id))).toEqual([]);
});

const last = `steps[${base.steps.length}]`;
it.each<[string, Partial<Step> & { id: string; kind: string }, string]>([
  ["a step id twice", { id: "rinse", kind: "do" }, `${last}.id`],
  ["a material not listed", { id: "n", kind: "do", uses: [{ item: "soap", qty: 1 }] }, `${last}.uses`],
  ["an option that does not exist", { id: "n", kind: "do", when: [{ option: "wings", fitted: true }] }, `${last}.when`],
  ["a condition on a later step", { id: "n", kind: "do", when: [{ step: "n", is: "ok" }] }, `${last}.when`],
  ["a maximum below the minimum", { id: "n", kind: "wait", minMinutes: 5, maxMinutes: 4 }, `${last}.maxMinutes`],
  [
    "meanwhile naming an earlier step",
    { id: "n", kind: "wait", minMinutes: 5, meanwhile: ["rinse"] },
    `${last}.meanwhile`,
  ],
  ["an unknown meter", { id: "n", kind: "reset", meter: "hours", expect: 0 }, `${last}.meter`],
  ["an unknown part", { id: "n", kind: "replace", item: "wheel", slots: ["a"] }, `${last}.item`],
  [
    "an unknown slot",
    { id: "n", kind: "replace", item: "auger-bearing", slots: ["bearing-top", "bearing-bottom", "middle"] },
    `${last}.slots`,
  ],
  ["one of a pair", { id: "n", kind: "replace", item: "auger-bearing", slots: ["bearing-top"] }, `${last}.slots`],
  [
    "a repeat that goes forward",
    { id: "n", kind: "repeat", from: "n", question: "?", clean: "y", again: "n" },
    `${last}.from`,
  ],
  [
    "a second repeat after the first",
    { id: "n", kind: "repeat", from: "rinse", question: "?", clean: "y", again: "n" },
    "nothing",
  ],
  [
    "nested repeats",
    { id: "n", kind: "repeat", from: "look-over", question: "?", clean: "y", again: "n" },
    `${last}.from`,
  ],
])("%s is found", (_name, step, path) => {
  expect(paths(withStep(step))).toEqual(path === "nothing" ? [] : [path]);
});

describe("a fault says what is wrong where", () => {
  const parts = [BLADES];
  const meters = [{ id: "hours", name: "Hours", unit: "h" }];
  const materials = [{ item: "acid", name: "Acid", qty: 1, unit: "mL" }];
  /** A reading at two points that tells the wear of two blades. */
  const wear = (more: object): object => ({
    kind: "measure",
    reading: "blade",
    unit: "mm",
    points: ["Left", "Right"],
    wears: { item: "blade", slots: ["l", "r"], per: "hours", worse: "down", ...more },
  });
  const whole = (step: object, before: Step[] = []): Procedure =>
    sample([...before, doing("it", step)], { parts, meters, materials });
  const faults = (step: object, before: Step[] = []): string[] =>
    checkProcedure(whole(step, before)).map(({ path, message }) => `${path}: ${message}`);

  it.each<[object, string]>([
    [{ id: "gate" }, 'steps[1].id: Step "gate" stands twice; every step needs an id of its own.'],
    [{ uses: [{ item: "soap", qty: 1 }] }, 'steps[1].uses: "it" uses "soap", which is not on the material list.'],
    [
      { when: [{ option: "lid", fitted: true }] },
      'steps[1].when: "it" depends on the option "lid", which does not exist.',
    ],
    [
      { when: [{ step: "proof", is: "ok" }] },
      'steps[1].when: "it" depends on the earlier step "proof", which does not exist.',
    ],
    [{ kind: "wait", minMinutes: 9, maxMinutes: 8.9 }, 'steps[1].maxMinutes: "it" has a maximum below its minimum.'],
    [
      { kind: "wait", minMinutes: 9, meanwhile: ["it"] },
      'steps[1].meanwhile: "it" names "it" as work for meanwhile, which is no later step.',
    ],
    [
      { kind: "measure", reading: "x", unit: "h", points: ["a"], trials: 2 },
      'steps[1].trials: "it" has points and trials; it can have one of them.',
    ],
    [
      { kind: "measure", reading: "x", unit: "h", meter: "prints" },
      'steps[1].meter: "it" reads the meter "prints", which is not on the meter list.',
    ],
    [
      { kind: "reset", meter: "prints", expect: 0 },
      'steps[1].meter: "it" resets the meter "prints", which is not on the meter list.',
    ],
    [
      { kind: "mix", recipe: { by: "dilution", stock: "bleach", target: { ppm: 200 }, finalMl: 5000 } },
      'steps[1].recipe: "it" mixes "bleach", which is not on the material list.',
    ],
    [
      { kind: "mix", recipe: { by: "additive", item: "dye", additiveMl: 1, tankMl: 100 } },
      'steps[1].recipe: "it" mixes "dye", which is not on the material list.',
    ],
    [
      {
        kind: "mix",
        recipe: {
          by: "parts",
          parts: [
            { item: "acid", parts: 1 },
            { item: "salt", parts: 1 },
            { item: "water", parts: 9 },
          ],
          finalMl: 100,
        },
      },
      'steps[1].recipe: "it" mixes "salt", which is not on the material list.',
    ],
    [
      { kind: "choose", question: "?", schools: [{ id: "a" }, { id: "b" }, { id: "a" }] },
      'steps[1]: "it" offers the same answer twice.',
    ],
    [
      { kind: "decide", question: "?", branches: [{ id: "a" }, { id: "a" }] },
      'steps[1]: "it" offers the same answer twice.',
    ],
    [{ kind: "nested", procedure: "sample", version: 1 }, 'steps[1].procedure: "it" holds the procedure it stands in.'],
    [
      { kind: "turn", item: "knife", slots: ["l"] },
      'steps[1].item: "it" replaces "knife", which is not on the part list.',
    ],
    [
      { kind: "replace", item: "blade", slots: ["l", "r", "middle"] },
      'steps[1].slots: "it" names the slot "middle", which "blade" does not have.',
    ],
    [{ kind: "turn", item: "blade", slots: ["l"] }, 'steps[1].slots: "it" replaces only one of a pair.'],
    [wear({ item: "knife" }), 'steps[1].wears: "it" tells the wear of "knife", which is not on the part list.'],
    [wear({ slots: ["l", "top"] }), 'steps[1].wears: "it" names the slot "top", which "blade" does not have.'],
    [wear({ slots: ["l", "l"] }), 'steps[1].wears: "it" names a slot twice.'],
    [wear({ slots: ["l"] }), 'steps[1].wears: "it" has 2 points and 1 slots: each point tells the wear of one.'],
    [
      { ...wear({ worst: true }), points: undefined },
      'steps[1].wears: "it" tells of the worst of its points, and has none.',
    ],
    [wear({ per: "prints" }), 'steps[1].wears: "it" wears by the meter "prints", which is not on the meter list.'],
    [
      { kind: "repeat", from: "proof", question: "?", clean: "y", again: "n" },
      'steps[1].from: "it" goes back to "proof", which is no earlier step.',
    ],
  ])("%j", (step, words) => {
    expect(faults(step)).toEqual([words]);
  });

  it.each<[string, object]>([
    ["a maximum equal to the minimum", { kind: "wait", minMinutes: 9, maxMinutes: 9, meanwhile: ["proof"] }],
    ["wear by a meter", wear({})],
    ["wear by days, all slots by one reading", { ...wear({ per: "day" }), points: undefined }],
    ["trials alone", { kind: "measure", reading: "x", unit: "h", trials: 2, meter: "hours" }],
    [
      "a mixture of what is listed",
      { kind: "mix", recipe: { by: "additive", item: "acid", additiveMl: 1, tankMl: 9 } },
    ],
    ["another procedure", { kind: "nested", procedure: "other", version: 1 }],
    ["both of a pair", { kind: "replace", item: "blade", slots: ["r", "l"] }],
    ["a repeat back to the gate", { kind: "repeat", from: "gate", question: "?", clean: "y", again: "n" }],
  ])("but not of %s", (_name, step) => {
    expect(faults(step)).toEqual([]);
  });

  it("and of every fault, in the order of the steps", () => {
    const twice = doing("first", { uses: [{ item: "soap", qty: 1 }], when: [{ option: "lid", fitted: true }] });
    expect(faults({ kind: "reset", meter: "prints", expect: 0 }, [twice]).map((one) => one.split(":")[0])).toEqual([
      "steps[1].uses",
      "steps[1].when",
      "steps[2].meter",
    ]);
  });
});

describe("meters that run within others", () => {
  const meter = (id: string, within?: string, unit = "h") => ({ id, name: id, unit, ...(within ? { within } : {}) });
  const faults = (...meters: ReturnType<typeof meter>[]): string[] =>
    checkProcedure(sample([], { meters })).map(({ path, message }) => `${path}: ${message}`);

  it("are in the same unit, on the list and in no circle", () => {
    expect(faults(meter("cutting", "spindle"), meter("spindle", "power"), meter("power"))).toEqual([]);
    expect(faults(meter("cutting", "spindle"))).toEqual([
      'meters[0].within: The meter "cutting" runs within "spindle", which is not on the meter list.',
    ]);
    expect(faults(meter("prints", "power", "prints"), meter("power"))).toEqual([
      'meters[0].within: The meter "prints" counts prints and runs within "power", which counts h.',
    ]);
    expect(faults(meter("a", "b"), meter("b", "a"), meter("c", "c"))).toEqual([
      'meters[0].within: The meter "a" runs within itself.',
      'meters[1].within: The meter "b" runs within itself.',
      'meters[2].within: The meter "c" runs within itself.',
    ]);
  });
});

it("tells what was left off for a procedure and is never put back by it", () => {
  const left = { ...base, begins: { off: ["tank"] } };
  expect(checkProcedure(left)).toEqual([
    { path: "begins.off", message: '"tank" was left off, and no step puts it back.' },
  ]);
});

it("finds, for each shipped duty that leaves parts off, the one that begins with them", () => {
  const all = shippedIds().map(shipped);
  const pairs = all.flatMap((one) =>
    (one.leaves?.off ?? []).length === 0
      ? []
      : (one.plan.emits ?? []).map(({ event }) => [
          one.leaves?.off,
          all.find(
            ({ family, plan }) =>
              family === one.family && plan.triggers.some((t) => t.kind === "event" && t.event === event),
          )?.begins?.off,
        ]),
  );
  expect(pairs.length).toBeGreaterThan(1);
  for (const [left, begun] of pairs) expect(begun).toEqual(left);
});
