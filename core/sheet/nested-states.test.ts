import { expandNested, placeGates, type Procedure, type Step, terse, withDefaults } from "./index";
import { base2, ISOLATED, off, on, proof, soak, STANDING } from "./testing/lint-cases-2";
import { doing } from "./testing/sample";

const nested = (id: string, procedure: string): Step => doing(id, { kind: "nested", procedure, version: 1 });
const whole = (steps: Step[], inner: Record<string, Procedure>): Procedure =>
  expandNested(base2(steps, { id: "outer" }), (id) => inner[id]);
const ids = (procedure: Procedure): string[] => procedure.steps.map((step) => step.id);
const inner = (id: string, steps: Step[], more: Partial<Procedure> = {}): Procedure => base2(steps, { id, ...more });
const ACID = { item: "acid", name: "Acid", qty: 2, unit: "mL", chemical: "acid" } as const;
const spray = doing("spray", { uses: [{ item: "acid", qty: 2 }] });
const rinse = doing("rinse", { rinses: true });
const wipe = doing("wipe", { state: ["isolated"] });

describe("equal steps", () => {
  it("stand once when different nested procedures lead to them, and are worked for both", () => {
    const daily = inner("daily", [wipe, doing("own")]);
    const monthly = inner("monthly", [wipe, doing("other")]);
    const procedure = whole([nested("d", "daily"), nested("m", "monthly")], { daily, monthly });
    expect(ids(procedure)).toEqual(["d-wipe", "d-own", "m-other"]);
    expect(procedure.steps[0]?.workedFor).toEqual([
      { procedure: "daily", step: "wipe", within: "d" },
      { procedure: "monthly", step: "wipe", within: "m" },
    ]);
  });

  it("stay twice when the same procedure is nested twice on purpose, and when they are the outer's own", () => {
    const clean = inner("clean", [wipe]);
    expect(ids(whole([nested("a", "clean"), nested("b", "clean")], { clean }))).toEqual(["a-wipe", "b-wipe"]);
    expect(ids(whole([wipe, nested("a", "clean")], { clean }))).toEqual(["wipe", "a-wipe"]);
  });

  it("stand once for a procedure that two others hold", () => {
    const clean = inner("clean", [spray, rinse], { materials: [ACID] });
    const daily = inner("daily", [nested("c", "clean")]);
    const monthly = inner("monthly", [nested("c", "clean")]);
    const procedure = whole([nested("d", "daily"), nested("m", "monthly")], { clean, daily, monthly });
    expect(ids(procedure)).toEqual(["d-c-spray", "d-c-rinse"]);
    // What is used once is needed once.
    expect(procedure.materials).toEqual([ACID]);
  });

  it("stay where what came between makes them needed again", () => {
    const daily = inner("daily", [spray, rinse], { materials: [ACID] });
    const more = { ...spray, id: "more", title: "More" };
    const monthly = inner("monthly", [more, rinse], { materials: [ACID] });
    expect(ids(whole([nested("d", "daily"), nested("m", "monthly")], { daily, monthly }))).toEqual([
      "d-spray",
      "d-rinse",
      "m-more",
      "m-rinse",
    ]);
    const pan = (title: string): Step[] => [off({ title }), soak, on()];
    const apart = { daily: inner("daily", pan("Pan off")), monthly: inner("monthly", pan("Pan and rails off")) };
    expect(ids(whole([nested("d", "daily"), doing("x"), nested("m", "monthly")], apart))).toEqual([
      "d-off",
      "d-soak",
      "d-on",
      "x",
      "m-off",
      "m-soak",
      "m-on",
    ]);
    const alike = { daily: inner("daily", pan("Pan off")), monthly: inner("monthly", pan("Pan off")) };
    expect(ids(whole([nested("d", "daily"), doing("x"), nested("m", "monthly")], alike))).toEqual([
      "d-off",
      "d-soak",
      "x",
      "m-on",
    ]);
  });

  it("come off first and go on last where a procedure outside takes off more", () => {
    const daily = inner("daily", [off(), soak, on(), proof]);
    const lid = { item: "lid", count: 1 };
    const more = [
      doing("lid-off", { state: ["isolated"], takesOff: [lid] }),
      doing("lid-on", { state: ["isolated"], putsBack: [lid] }),
    ];
    expect(ids(whole([nested("d", "daily"), ...more], { daily }))).toEqual([
      "d-off",
      "d-soak",
      "lid-off",
      "lid-on",
      "d-on",
      "d-proof",
    ]);
  });

  it("are proven at the end of all, also where they are nested deeper: the lock stays on for day, week and month", () => {
    const daily = inner("daily", [wipe, proof]);
    const weekly = inner("weekly", [nested("d", "daily"), doing("grease", { state: ["isolated"] }), proof]);
    const procedure = placeGates(
      whole([nested("w", "weekly"), doing("wash", { state: ["isolated"] }), proof], { daily, weekly }),
    );
    expect(ids(procedure)).toEqual([
      "gate-isolated-in-1",
      "w-d-wipe",
      "w-grease",
      "wash",
      "gate-isolated-out-1",
      "gate-standing-in-1",
      "w-d-proof",
      "proof",
    ]);
  });

  it("share one way on the bench, and the later refit and proof", () => {
    const daily = inner("daily", [off(), soak, proof]);
    const monthly = inner("monthly", [off(), soak, wipe, on(), proof]);
    const procedure = whole([nested("d", "daily"), nested("m", "monthly")], { daily, monthly });
    expect(ids(procedure)).toEqual(["d-off", "d-soak", "m-wipe", "m-on", "d-proof"]);
    expect(procedure.steps.map((step) => step.path ?? step.opens)).toEqual([
      "d-pan",
      "d-pan",
      undefined,
      undefined,
      undefined,
    ]);
  });

  it("are left alone in version 1 of the format", () => {
    const old = { ...inner("daily", [doing("a")]), formatVersion: 1 } as const;
    const both = { daily: old, monthly: { ...old, id: "monthly" } };
    const outer = { ...base2([nested("d", "daily"), nested("m", "monthly")]), formatVersion: 1 } as const;
    expect(ids(expandNested(outer, (id) => both[id as keyof typeof both]))).toEqual(["d-a", "m-a"]);
  });
});

it("gates of nested procedures stand once, and what closes one waits for what still needs the lock", () => {
  const daily = inner("daily", [wipe, proof]);
  const procedure = placeGates(
    whole([nested("d", "daily"), doing("belt", { state: ["isolated"] }), { ...proof, title: "All" }], { daily }),
  );
  expect(ids(procedure)).toEqual([
    "gate-isolated-in-1",
    "d-wipe",
    "belt",
    "gate-isolated-out-1",
    "gate-standing-in-1",
    "d-proof",
    "proof",
  ]);
});

it("what a nested procedure reads last waits for what still needs the lock, as its proof does; what it finds does not", () => {
  const reading = (id: string, more: object): Step => ({
    id,
    kind: "measure",
    title: id,
    reading: id,
    unit: "mm",
    state: ["standing"],
    ...more,
  });
  const daily = inner("daily", [reading("found", { stage: "as-found" }), wipe, reading("left", { stage: "as-left" })], {
    states: [ISOLATED, STANDING],
  });
  const procedure = expandNested(
    base2([nested("d", "daily"), { ...wipe, id: "more" }, proof], { id: "outer", states: [ISOLATED, STANDING] }),
    () => daily,
  );
  expect(ids(procedure)).toEqual(["d-found", "d-wipe", "more", "d-left", "proof"]);
});

it("states of the same name are one: the outer's checks, and what ends it in either", () => {
  const mine = { ...ISOLATED, excludes: ["moving"], in: { checks: ["Mine"] } };
  const daily = inner("daily", [wipe], { states: [ISOLATED, STANDING] });
  const { states } = expandNested(base2([nested("d", "daily")], { states: [mine] }), () => daily);
  expect(states).toEqual([{ ...mine, excludes: ["moving", "standing"] }, STANDING]);
});

describe("a procedure as it is written down", () => {
  const short = {
    format: "humble-hound/procedure",
    formatVersion: 2,
    id: "weekly",
    version: 1,
    title: "Weekly",
    family: "any",
    summary: "Typical figures.",
    who: "technician",
    minutes: { handsOn: 5, waiting: 0 },
    plan: { triggers: [{ kind: "event", event: "x" }] },
    states: [ISOLATED],
    steps: [
      { title: "Wipe the Crème tray", state: ["isolated"], minutes: 3 },
      { title: "Wipe the Crème tray", minutes: 2 },
      { id: "look", kind: "prove", title: "Look", expect: "Clean" },
    ],
  };

  it("leaves out what goes without saying, and comes back the same", () => {
    const full = withDefaults(short) as Procedure;
    expect(full).toMatchObject({
      hazards: [],
      protective: [],
      tools: [],
      materials: [],
      parts: [],
      options: [],
      meters: [],
    });
    expect(full.steps.map((step) => [step.id, step.kind])).toEqual([
      ["wipe-the-creme-tray", "do"],
      ["wipe-the-creme-tray-2", "do"],
      ["look", "prove"],
    ]);
    const written = terse(full) as typeof short;
    expect(written.steps).toEqual([...short.steps.slice(0, 2), { kind: "prove", title: "Look", expect: "Clean" }]);
    expect(withDefaults(written)).toEqual(full);
  });

  it("keeps every id where leaving some out would change another", () => {
    const full = withDefaults(short) as Procedure;
    const swapped = { ...full, steps: [full.steps[1], full.steps[0]].map((step) => ({ ...step })) } as Procedure;
    expect(withDefaults(terse(swapped))).toEqual(swapped);
  });

  it("is left as it is in version 1, and when it is none", () => {
    const old = { ...short, formatVersion: 1 };
    expect(withDefaults(old)).toBe(old);
    for (const none of [null, 3, "x", [], { formatVersion: 2, steps: 3 }, { formatVersion: 2, steps: [null, 3] }])
      expect(() => withDefaults(none)).not.toThrow();
  });
});
