import type { Procedure, Step } from "@core";

import { TestLog } from "../../../core/sheet/testing/runs";
import { doing, sample } from "../../../core/sheet/testing/sample";
import { bitsOf, exceptionsIn, exceptionWords } from "./exceptions";
import { lotKey, summaryOfSheet, wordsIn } from "./summary-of";

const steps: Step[] = [
  doing("wash"),
  { id: "gap", kind: "measure", title: "Gap", reading: "gap", unit: "mm", limits: { min: 1, max: 2 } },
];
const procedure: Procedure = { ...sample(), steps };

const summary = (log: TestLog, late: TestLog["events"] = []) =>
  summaryOfSheet(procedure, { entries: log.events, late }, []);
const exceptions = (log: TestLog, late: TestLog["events"] = []) => exceptionsIn(summary(log, late).exceptions);
const values = (log: TestLog, kind: string, late: TestLog["events"] = []) =>
  summary(log, late)
    .links.filter((one) => one.kind === kind)
    .map((one) => one.value)
    .sort();

describe("what is not as it should be", () => {
  it("is nothing in a sheet as it should be", () => {
    const log = new TestLog();
    log.done("wash");
    log.read("gap", 1.5, "mm");
    expect(summary(log).exceptions).toBe(0);
    expect(values(log, "exception")).toEqual([]);
  });

  it.each<[string, (log: TestLog) => unknown, string[]]>([
    [
      "a reading out of limits, though the next is in",
      (log) => [log.read("gap", 3, "mm"), log.read("gap", 1.5, "mm")],
      ["limit"],
    ],
    ["a finding", (log) => log.add({ type: "finding", step: "gap", severity: "minor", text: "Worn" }), ["finding"]],
    [
      "a step that was skipped",
      (log) => log.add({ type: "step-skipped", step: "wash", round: 1, reason: "Wet" }),
      ["skipped"],
    ],
    ["a note is none", (log) => log.add({ type: "note", text: "All fine" }), []],
    [
      "a step that does not apply is none",
      (log) => log.add({ type: "step-not-applicable", step: "wash", round: 1, reason: "None" }),
      [],
    ],
    ["work that was not done", (log) => log.add({ type: "outcome", outcome: "no-access", reason: "Shut" }), ["ended"]],
  ])("%s", (_, happens, expected) => {
    const log = new TestLog();
    happens(log);
    expect(exceptions(log)).toEqual(expected);
    expect(values(log, "exception")).toEqual([...expected, ...(expected.length > 0 ? ["any"] : [])].sort());
  });

  it("is a correction, and what came late", () => {
    const log = new TestLog();
    const first = log.read("gap", 3, "mm");
    log.add({ type: "corrected", ref: first.id, set: { value: 1.3 }, why: "Typed wrong" });
    // As it reads now it is within the limits.
    expect(exceptions(log)).toEqual(["corrected"]);
    const late = new TestLog();
    late.add({ type: "note", text: "Gasket rattled" });
    expect(exceptions(log, late.events)).toEqual(["corrected", "late"]);
    expect(values(log, "word", late.events)).toEqual(["gasket", "rattled", "typed", "wrong"]);
  });

  it("is told in words, and goes through its bits and back", () => {
    expect(exceptionWords(bitsOf(["finding", "limit"]))).toBe("Out of limits, finding");
    expect(exceptionWords(0)).toBe("");
    expect(exceptionsIn(bitsOf(["late", "unsafe", "late"]))).toEqual(["unsafe", "late"]);
  });
});

describe("what finds a record", () => {
  it("are its words as they read now, in small letters without marks, each once", () => {
    const log = new TestLog();
    const note = log.add({ type: "note", text: "Sealing Gäsket, sealing GASKET; Ω 2" });
    expect(values(log, "word")).toEqual(["2", "gasket", "sealing", "ω"]);
    log.add({ type: "corrected", ref: note.id, set: { text: "Hose" }, why: "Other sheet" });
    expect(values(log, "word")).toEqual(["hose", "other", "sheet"]);
    expect(wordsIn("")).toEqual([]);
    expect(wordsIn("it's 3.5 °C")).toEqual(["it", "s", "3", "5", "c"]);
  });

  it("are lots however they were typed, items, and whoever had a hand in it", () => {
    const log = new TestLog();
    log.add({ type: "consumable-used", item: "grease", qty: 1, unit: "g", lot: " L-7a " });
    log.add({ type: "part-fitted", step: "wash", round: 1, item: "seal", slot: "left", qty: 1, lot: "L-7A" });
    log.add({ type: "note", text: "x" });
    expect(values(log, "lot")).toEqual(["l-7a"]);
    expect(values(log, "item")).toEqual(["grease", "seal"]);
    expect(values(log, "person")).toEqual([...new Set(log.events.map((one) => one.by))].sort());
    expect(lotKey("Ｌ１")).toBe("l1");
  });

  it("are never more words than a page of notes has", () => {
    const log = new TestLog();
    log.add({ type: "note", text: Array.from({ length: 2000 }, (_, i) => `w${i}`).join(" ") });
    expect(values(log, "word")).toHaveLength(400);
    expect(wordsIn("x".repeat(500))).toEqual(["x".repeat(40)]);
    // Two that begin alike are one; a sign of two halves stays whole.
    expect(wordsIn(`${"x".repeat(41)} ${"x".repeat(42)}`)).toEqual(["x".repeat(40)]);
    expect(wordsIn(`y${"𠀀".repeat(60)}`)).toEqual([`y${"𠀀".repeat(39)}`]);
    expect(lotKey("𠀀".repeat(200))).toBe("𠀀".repeat(120));
  });
});
