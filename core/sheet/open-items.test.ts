import fc from "fast-check";

import { must } from "../must";
import { foldRun, type OpenItem, openItems, type SheetEffects, sheetEffects, type Step } from "./index";
import type { Part, Procedure } from "./procedure";
import { TestLog } from "./testing/runs";
import { doing, PROOF, sample } from "./testing/sample";

const GAP: Step = { id: "gap", kind: "measure", title: "Gap", reading: "gap", unit: "mm", limits: { max: 2 } };
const BLADE: Part = { item: "blade", name: "Blade", slots: ["l", "r"].map((id) => ({ id, name: id })) };
const RENEW = doing("renew", { kind: "replace", item: "blade", slots: ["l"], when: [{ step: "gap", is: "out" }] });
const CHECK = sample([], { parts: [BLADE], steps: [GAP, RENEW, doing("wipe"), PROOF] });

let sheets = 0;
function closed(work: (log: TestLog) => void, procedure: Procedure = CHECK): SheetEffects {
  const log = new TestLog();
  work(log);
  const n = String(++sheets).padStart(3, "0");
  const state = foldRun(procedure, log.events);
  return sheetEffects({ id: `sheet-${n}`, closedAt: `2026-11-24T10:00:00.${n}Z` }, procedure, state, { options: [] });
}
const skip = (log: TestLog, step: string): unknown =>
  log.add({ type: "step-skipped", step, round: 1, reason: "No time" });
const open = (items: readonly OpenItem[]): string[] =>
  items.filter((one) => one.closed === null).map((one) => `${one.kind} ${one.slot ?? one.step ?? ""}`);

const rest = (log: TestLog): unknown => [log.done("wipe"), log.done(PROOF.id, "ok"), log.sign()];

describe("the open items of a machine", () => {
  it("are what a sheet left, until a part is put in where it was missing", () => {
    const skipped = closed((log) => [log.read("gap", 3, "mm"), skip(log, "renew"), rest(log)]);
    expect(open(openItems([skipped]))).toEqual(["fit-part l"]);
    const elsewhere = closed((log) => [log.read("gap", 1, "mm"), log.fit("wipe", "blade", "r"), rest(log)]);
    expect(open(openItems([skipped, elsewhere]))).toEqual(["fit-part l"]);
    const fitted = closed((log) => [log.read("gap", 3, "mm"), log.fit("renew", "blade", "l"), rest(log)]);
    const items = openItems([skipped, elsewhere, fitted]);
    expect(open(items)).toEqual([]);
    expect(must(items[0]).closed).toEqual({ at: fitted.at, sheetId: fitted.sheetId });
  });

  it("count once what is left again and again, as bad as it was found", () => {
    const minor = closed((log) => [
      log.add({ type: "finding", text: "Loose", severity: "minor" }),
      log.read("gap", 1, "mm"),
      rest(log),
    ]);
    const again = closed((log) => [
      log.add({ type: "finding", text: "Loose", severity: "major" }),
      log.read("gap", 1, "mm"),
      rest(log),
    ]);
    const items = openItems([again, minor]);
    expect(items).toHaveLength(1);
    expect(items[0]).toMatchObject({ sheetId: minor.sheetId, again: [{ sheetId: again.sheetId, severity: "major" }] });
  });

  it("are settled by doing what was left out, and by a reading within its limits", () => {
    const left = closed((log) => [log.read("gap", 1, "mm"), skip(log, "wipe"), log.done(PROOF.id, "ok"), log.sign()]);
    const done = closed((log) => [log.read("gap", 1, "mm"), rest(log)]);
    expect(open(openItems([left]))).toEqual(["incomplete wipe"]);
    expect(open(openItems([left, done]))).toEqual([]);
    const bare = sample([], { id: "bare", steps: [GAP, PROOF] });
    const out = closed((log) => [log.read("gap", 3, "mm"), log.done(PROOF.id, "ok"), log.sign()], bare);
    const still = closed((log) => [log.read("gap", 2.5, "mm"), log.done(PROOF.id, "ok"), log.sign()], bare);
    const back = closed((log) => [log.read("gap", 2, "mm"), log.done(PROOF.id, "ok"), log.sign()], bare);
    expect(open(openItems([out, still]))).toEqual(["out-of-limit gap"]);
    expect(open(openItems([out, still, back]))).toEqual([]);
  });

  it("are settled by a sheet that says so, but for a part, which has to go in, and what is unsafe", () => {
    const left = closed((log) => [
      log.add({ type: "finding", text: "Dent", severity: "minor" }),
      log.add({ type: "finding", text: "Sparks", severity: "unsafe" }),
      log.add({ type: "interim", text: "Tied up", until: "a new hose" }),
      log.read("gap", 3, "mm"),
      skip(log, "renew"),
      rest(log),
    ]);
    const before = openItems([left]);
    expect(open(before).sort()).toEqual(["finding ", "finding ", "fit-part l", "interim "]);
    const says = closed((log) => {
      for (const one of before) log.add({ type: "put-right", item: one.id });
      log.read("gap", 1, "mm");
      rest(log);
    });
    const after = openItems([left, says]);
    expect(after.filter((one) => one.closed === null).map((one) => one.because)).toEqual([
      "renew: left out: No time",
      "Sparks",
    ]);
    const cleared = openItems(
      [left, says],
      [{ item: must(before.find((one) => one.severity === "unsafe")).id, at: "2026-11-24T11:00:00Z" }],
    );
    expect(open(cleared)).toEqual(["fit-part l"]);
  });

  it("leave to its duty what a visit without the work did not come to, and keep the part that was missing", () => {
    const ended = closed((log) => {
      log.add({ type: "finding", text: "Dent", severity: "minor" });
      log.add({ type: "outcome", outcome: "part-missing", reason: "No blade in the van", part: { item: "blade" } });
    });
    expect(open(openItems([ended]))).toEqual(["finding ", "fit-part "]);
    const used = closed((log) => [log.read("gap", 3, "mm"), log.fit("renew", "blade", "l"), rest(log)]);
    expect(open(openItems([ended, used]))).toEqual(["finding "]);
  });

  it("know a step again in a sheet that contains its procedure", () => {
    const left = closed((log) => [log.read("gap", 1, "mm"), skip(log, "wipe"), log.done(PROOF.id, "ok"), log.sign()]);
    const nested = sample([], {
      id: "weekly",
      steps: [doing("daily-wipe", { workedFor: [{ procedure: CHECK.id, step: "wipe", within: "daily" }] }), PROOF],
    });
    const weekly = closed((log) => [log.done("daily-wipe"), log.done(PROOF.id, "ok"), log.sign()], nested);
    expect(open(openItems([left, weekly]))).toEqual([]);
  });

  /**
   * Whatever the sheets say and in whatever order they come in: the same as worked out anew, the same when what stood before is
   * taken as it stood, and as a plain reading of the rules has it.
   */
  it("come out the same however they are worked out", () => {
    const drawn = fc.array(
      fc.record({
        left: fc.uniqueArray(fc.constantFrom("slot l", "incomplete p/a", "out-of-limit p/g", "finding  Dent"), {
          maxLength: 3,
        }),
        settles: fc.subarray(["slot l", "incomplete p/a", "out-of-limit p/g", "finding  Dent"]),
        says: fc.array(fc.nat({ max: 9 }), { maxLength: 2 }),
        closing: fc.option(fc.nat({ max: 9 })),
      }),
      { minLength: 1, maxLength: 9 },
    );
    const kinds = {
      slot: "fit-part",
      incomplete: "incomplete",
      "out-of-limit": "out-of-limit",
      finding: "finding",
    } as const;
    fc.assert(
      fc.property(drawn, fc.nat(), (visits, shuffle) => {
        const at = (i: number): string => new Date(Date.UTC(2026, 10, 1) + i * 3_600_000).toISOString();
        const idOf = (n: number): string => {
          const i = n % visits.length;
          return `s${i} ${must(visits[i]).left[0] ?? "none"}`;
        };
        const effects = visits.map((visit, i): SheetEffects => ({
          sheetId: `s${i}`,
          at: at(i),
          left: visit.left.map((thing) => ({
            kind: kinds[must(thing.split(" ")[0]) as keyof typeof kinds],
            step: null,
            severity: "minor",
            because: thing,
            key: thing,
            thing,
          })),
          settles: [...visit.settles, ...visit.says.map((n) => `put right ${idOf(n)}`)],
        }));
        const closings = visits.flatMap(({ closing }, i) =>
          closing === null ? [] : [{ item: idOf(closing), at: new Date(Date.parse(at(i)) + 60_000).toISOString() }],
        );
        const whole = openItems(effects, closings);
        const mixed = [...effects].sort((a, b) => hash(a.sheetId, shuffle) - hash(b.sheetId, shuffle));
        expect(openItems(mixed, closings)).toEqual(whole);

        // One sheet after the other, each on what stood before it.
        let kept: OpenItem[] = [];
        effects.forEach((one, i) => {
          const own = closings.filter(({ at: when }) => when > at(i) && when < at(i + 1));
          kept = openItems([one], own, kept);
        });
        expect(kept).toEqual(whole);

        // The rules, read plainly: by the thing, in order.
        const things = new Map<string, { id: string; thing: string }>();
        visits.forEach((visit, i) => {
          for (const [thing, one] of [...things]) {
            const said = visit.says.map(idOf).includes(one.id) && !thing.startsWith("slot");
            if ((visit.settles.includes(thing) && !thing.startsWith("finding")) || said) things.delete(thing);
          }
          for (const thing of visit.left) if (!things.has(thing)) things.set(thing, { id: `s${i} ${thing}`, thing });
          const ended = visit.closing === null ? null : idOf(visit.closing);
          for (const [thing, one] of [...things]) if (one.id === ended) things.delete(thing);
        });
        expect(whole.filter((one) => one.closed === null).map((one) => one.id)).toEqual(
          [...things.values()].map((one) => one.id).sort(byPlace(whole)),
        );
      }),
      { numRuns: 300 },
    );
  });
});

const byPlace =
  (all: readonly OpenItem[]) =>
  (a: string, b: string): number =>
    all.findIndex((one) => one.id === a) - all.findIndex((one) => one.id === b);

function hash(text: string, salt: number): number {
  let sum = salt % 9973;
  for (const char of text) sum = (sum * 31 + char.charCodeAt(0)) % 9973;
  return sum;
}
