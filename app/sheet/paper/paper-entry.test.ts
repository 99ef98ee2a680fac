import { foldRun, missingSteps, must, type Procedure } from "@core";

import { parseLogEntry } from "~/sheet/log/log-entry-schema";

import { doing, sample } from "../../../core/sheet/testing/sample";
import { shipped, whole } from "../../../core/sheet/testing/shipped";
import {
  asOnPaper,
  clockFaults,
  EMPTY_LINE,
  paperEntries,
  type PaperLine,
  paperQuestions,
  unnamedPlaces,
} from "./paper-entry";

const RUN = "0190a000-0000-7000-8000-000000000001";
const work = {
  sheetId: RUN,
  by: "ada",
  device: "paper",
  fromMs: Date.UTC(2026, 5, 10, 8),
  toMs: Date.UTC(2026, 5, 10, 9, 30),
};
const line = (set: Partial<PaperLine>): PaperLine => ({ ...EMPTY_LINE, ...set });

/** Everything written as it should be. */
function filled(procedure: Procedure): Record<string, PaperLine> {
  return Object.fromEntries(
    procedure.steps.map((step) => [
      step.id,
      line(
        step.kind === "measure"
          ? {
              values: (step.points ?? Array.from({ length: step.trials ?? 1 })).map(
                () =>
                  step.target ?? ((step.limits?.min ?? 0) + (step.limits?.max ?? (step.limits?.min ?? 1) * 1.5)) / 2,
              ),
            }
          : step.kind === "wait"
            ? { minutes: step.minMinutes + 1 }
            : step.kind === "reset"
              ? { values: [step.expect] }
              : step.kind === "choose"
                ? { mark: must(step.schools[0]).id }
                : step.kind === "decide"
                  ? { mark: must(step.branches[0]).id }
                  : {
                      mark: "ok",
                      ...(step.kind === "safety" && step.coolDown
                        ? { values: [30], minutes: step.coolDown.minutes ?? null }
                        : {}),
                    },
      ),
    ]),
  );
}

it.each([
  [90, 0],
  [0, 0],
  [91, 1],
  [1500, 1],
  [-15, 1],
])("of a work of an hour and a half, a clock of %d min on paper has %d faults", (minutes, faults) => {
  const procedure = sample([doing("soak", { kind: "wait", minMinutes: 15 })]);
  expect(clockFaults(procedure, { soak: line({ minutes }) }, 90)).toHaveLength(faults);
});

it.each([
  "flake-ice-maker-clean-sanitise",
  "conveyor-toaster-monthly",
  "icp-spectrometer-carbon",
  "slide-stainer-chambers",
  "wide-format-printer-periodic",
])("%s filled in on paper leaves nothing open, in valid events", (id) => {
  const procedure = whole(shipped(id));
  const entries = paperEntries(procedure, filled(procedure), work);
  for (const entry of entries) expect(parseLogEntry(entry).fault).toBeUndefined();
  const state = foldRun(procedure, entries);
  expect(missingSteps(procedure, state, { options: procedure.options.map((one) => one.id) })).toEqual([]);
  expect(must(state.notes.at(-1)).text).toMatch(/paper/);
});

it("keeps the length of waits, within the time worked when they fit", () => {
  const procedure = shipped("slide-stainer-chambers");
  const entries = paperEntries(procedure, { ...filled(procedure), "chlorine-soak": line({ minutes: 23 }) }, work);
  expect(must(foldRun(procedure, entries).steps["chlorine-soak"]).timer).toMatchObject({
    minutes: 23,
    verdict: "long",
  });
  expect(Date.parse(must(entries.at(-1)).at)).toBeLessThanOrEqual(work.toMs + 1000);
  expect(entries.map((one) => one.at)).toEqual([...entries.map((one) => one.at)].sort());
});

it("leaves empty lines open, keeps reasons, and logs a finding for what is not so", () => {
  const procedure = shipped("ride-on-sweeper-daily");
  const entries = paperEntries(
    procedure,
    {
      "make-safe": line({ mark: "ok" }),
      hours: line({ mark: "skip", remark: "display dark" }),
      "safety-functions": line({ mark: "no", remark: "horn silent" }),
    },
    work,
  );
  const state = foldRun(procedure, entries);
  expect(state.steps.hours).toMatchObject({ status: "skipped", reason: "display dark" });
  expect(state.findings).toMatchObject([{ text: "horn silent", severity: "unsafe" }]);
  expect(missingSteps(procedure, state, { options: [] }).map((one) => one.step)).toContain("main-bristle");
});

it("renews those that the paper names, and leaves the step open where it names none", () => {
  const cups = { item: "cup", name: "Cup", slots: ["a", "b", "c"].map((id) => ({ id, name: id })) };
  const procedure = sample([doing("new", { kind: "replace", item: "cup", slots: ["a", "b", "c"], some: true })], {
    formatVersion: 2,
    parts: [cups],
  });
  const state = (set: Partial<PaperLine>) => foldRun(procedure, paperEntries(procedure, { new: line(set) }, work));
  const named = state({ slots: ["c", "a"] });
  expect(named.parts.map((one) => one.slot)).toEqual(["c", "a"]);
  expect(must(named.steps.new).status).toBe("done");
  expect(state({ mark: "ok" }).steps.new).toBeUndefined();
  expect(unnamedPlaces(procedure, { new: line({ mark: "ok" }) })).toEqual(["new: tick those that are new."]);
  expect(unnamedPlaces(procedure, { new: line({ mark: "ok", slots: ["b"] }) })).toEqual([]);
  expect(unnamedPlaces(procedure, { new: line({ mark: "skip" }) })).toEqual([]);
});

it("makes nothing of an empty sheet", () => expect(paperEntries(shipped("own-duty"), {}, work)).toEqual([]));

describe("what one line of paper makes", () => {
  const materials = [{ item: "soap", name: "Soap", qty: 5, unit: "mL" }];
  const meters = [{ id: "hours", name: "Hours", unit: "h" }];
  /** The entries of one step, without what all have. */
  const made = (step: object, set: Partial<PaperLine>, extra: object = {}) => {
    const procedure = sample([doing("it", step)], { materials, meters, ...extra });
    return paperEntries(procedure, { it: line(set) }, work)
      .slice(0, -1)
      .map(({ id: _i, runId: _r, at: _a, by: _b, device: _d, ...body }) => body);
  };
  const at = { step: "it", round: 1 };
  const note = { type: "note", ...at, text: "Stiff" };

  it("work: a tick, what it used, and the remark", () => {
    expect(made({ uses: [{ item: "soap", qty: 5 }] }, { mark: "ok", remark: " Stiff " })).toEqual([
      { type: "consumable-used", ...at, item: "soap", qty: 5, unit: "mL" },
      { type: "step-done", ...at },
      note,
    ]);
    expect(made({ uses: [{ item: "rag", qty: 1 }] }, { mark: "ok" })[0]).toMatchObject({ unit: "pc" });
  });

  it("nothing without a tick, a value, a time or an answer, though something is remarked", () => {
    for (const step of [
      {},
      { kind: "count", times: 3 },
      { kind: "replace", item: "blade", slots: ["l"] },
      { kind: "prove", expect: "Runs" },
      { kind: "mix", recipe: { by: "parts", parts: [], finalMl: 1 } },
      { kind: "wait", minMinutes: 5 },
      { kind: "inspect", asItShouldBe: "x", ifNot: "y" },
      { kind: "choose", question: "?", schools: [{ id: "a", name: "A" }] },
      { kind: "decide", question: "?", branches: [{ id: "a", name: "A" }] },
      { kind: "nested", procedure: "other", version: 1 },
    ])
      expect([step, made(step, { remark: "" })]).toEqual([step, []]);
    expect(made({ kind: "safety", checks: ["Off"] }, { mark: "no" })).toEqual([]);
  });

  it("what was skipped, with the reason or that paper gave none", () => {
    expect(made({}, { mark: "skip", remark: "No time" })).toEqual([{ type: "step-skipped", ...at, reason: "No time" }]);
    expect(made({ kind: "wait", minMinutes: 5 }, { mark: "skip" })).toEqual([
      { type: "step-skipped", ...at, reason: "Skipped on paper" },
    ]);
  });

  it("readings point by point, those that are missing left out", () => {
    const measure = { kind: "measure", reading: "gap", unit: "mm", points: ["a", "b", "c"] };
    expect(made(measure, { values: [1, null, 3], remark: "Stiff" })).toEqual([
      { type: "reading", ...at, value: 1, unit: "mm", point: 0 },
      { type: "reading", ...at, value: 3, unit: "mm", point: 2 },
      note,
    ]);
    expect(made({ ...measure, points: ["a"] }, { values: [1] })).toEqual([
      { type: "reading", ...at, value: 1, unit: "mm" },
    ]);
  });

  it("a counter in its meter's unit", () => {
    expect(made({ kind: "reset", meter: "hours", expect: 0 }, { values: [0] })).toEqual([
      { type: "reading", ...at, value: 0, unit: "h" },
    ]);
    expect(made({ kind: "reset", meter: "prints", expect: 0 }, { values: [0] })[0]).toMatchObject({ unit: "count" });
  });

  it("a gate with its clock only where it has one and a time was written", () => {
    const gate = { kind: "safety", checks: ["Off"], coolDown: { minutes: 30 } };
    expect(made(gate, { mark: "ok", minutes: 31, values: [40] }).map((one) => one.type)).toEqual([
      "timer-started",
      "timer-stopped",
      "reading",
      "safety-confirmed",
    ]);
    expect(made(gate, { mark: "ok" }).map((one) => one.type)).toEqual(["safety-confirmed"]);
    expect(made({ kind: "safety", checks: ["Off"] }, { mark: "ok", minutes: 31 }).map((one) => one.type)).toEqual([
      "safety-confirmed",
    ]);
  });

  it("each repetition, each slot, a block that is clean, a proof", () => {
    expect(made({ kind: "count", times: 3 }, { mark: "ok" }).map((one) => one.type)).toEqual(Array(3).fill("counted"));
    expect(made({ kind: "turn", item: "blade", slots: ["l", "r"] }, { mark: "ok" })).toEqual([
      { type: "part-fitted", ...at, item: "blade", slot: "l", qty: 1 },
      { type: "part-fitted", ...at, item: "blade", slot: "r", qty: 1 },
    ]);
    const repeat = { kind: "repeat", from: "gate", question: "?", clean: "y", again: "n" };
    expect(made(repeat, { mark: "ok" })).toEqual([{ type: "step-done", ...at, answer: "clean" }]);
    expect(made({ kind: "prove", expect: "Runs" }, { mark: "ok" })).toEqual([
      { type: "step-done", ...at, answer: "ok" },
    ]);
  });

  it("an inspection: what is not as it should be is found, in the writer's words or the step's", () => {
    const look = { kind: "inspect", asItShouldBe: "Clean", ifNot: "Dirty", finding: "major" };
    expect(made(look, { mark: "no", remark: "Stiff" })).toEqual([
      { type: "step-done", ...at, answer: "not-ok" },
      { type: "finding", ...at, text: "Stiff", severity: "major" },
    ]);
    expect(made(look, { mark: "no" })[1]).toMatchObject({ text: "Dirty" });
    expect(made(look, { mark: "ok", remark: "Stiff" })).toEqual([{ type: "step-done", ...at, answer: "ok" }, note]);
    const { finding: _, ...mild } = look;
    expect(made(mild, { mark: "no", remark: "Stiff" })[1]).toEqual(note);
    expect(made(look, { mark: "maybe" })).toEqual([]);
  });
});

it("spreads the entries over the time that was worked, waits as long as they were, and never turns back", () => {
  const procedure = sample([doing("a"), doing("soak", { kind: "wait", minMinutes: 20 }), doing("b")]);
  const lines = { a: line({ mark: "ok" }), soak: line({ minutes: 30 }), b: line({ mark: "ok" }) };
  const times = (toMs: number) =>
    paperEntries(procedure, lines, { ...work, toMs }).map((one) => (Date.parse(one.at) - work.fromMs) / 60_000);
  // a, clock, clock off, b, note: an hour less thirty minutes over five.
  expect(times(work.fromMs + 60 * 60_000)).toEqual([6, 12, 42, 48, 54]);
  // Too short for the wait: stretched by a second for each.
  expect(times(work.fromMs + 10 * 60_000).map((one) => Math.round(one * 60))).toEqual([1, 2, 1802, 1803, 1804]);
  expect(paperEntries(procedure, {}, work)).toEqual([]);
});

describe("values on paper that are odd", () => {
  const gap = (id: string, more: object = {}) =>
    doing(id, { kind: "measure", title: id, reading: id, unit: "mm", ...more });
  const procedure = sample([gap("usual"), gap("odd"), gap("cannot", { possible: { max: 5 } })]);
  const history = [1, 2, 3, 4, 5].map((day) => ({ on: `2026-06-0${day}`, value: 4 }));
  const known = { past: { usual: history, odd: [...history].map((one) => ({ ...one, value: 40 })) }, on: "2026-06-10" };
  const entriesOf = (cannot: number) =>
    paperEntries(
      procedure,
      { usual: line({ values: [4] }), odd: line({ values: [4] }), cannot: line({ values: [cannot] }) },
      work,
    );

  it("are asked about or refused, each with its reason", () => {
    expect(paperQuestions(entriesOf(6), procedure, known)).toMatchObject([
      { title: "odd", judged: { verdict: "unusual" } },
      { title: "cannot", judged: { verdict: "impossible" } },
    ]);
    expect(paperQuestions(entriesOf(5), procedure, known).map((one) => one.title)).toEqual(["odd"]);
  });

  it("are logged with the answer, and no other value of the same figure is", () => {
    const entries = entriesOf(4);
    const logged = asOnPaper(entries, paperQuestions(entries, procedure, known));
    const asked = logged.filter((one) => one.type === "reading" && one.asked);
    expect(asked).toMatchObject([{ step: "odd", value: 4, asked: { answer: "right" } }]);
    expect(logged).toHaveLength(entries.length);
  });
});
