import fc from "fast-check";

import { instantMs } from "../days/parse-instant";
import { must } from "../must";
import { closesRun, orderEvents, splitAtSignature, undoneIds } from "./order-events";
import type { RunEvent, RunEventBody } from "./run-event";

const event = (id: string, minute: number, body: RunEventBody): RunEvent => ({
  id,
  runId: "r",
  at: new Date(Date.UTC(2026, 5, 1, 8, minute)).toISOString(),
  by: "ada",
  device: "phone",
  ...body,
});
const note = (id: string, minute: number, text = id): RunEvent => event(id, minute, { type: "note", text });
const undo = (id: string, minute: number, ref: string): RunEvent => event(id, minute, { type: "undone", ref });
const undone = (...events: RunEvent[]): string[] => [...undoneIds(orderEvents(events))].sort();

describe("an instant", () => {
  it.each([
    ["2026-02-28T09:30:00Z", Date.UTC(2026, 1, 28, 9, 30)],
    ["2026-02-28T09:30:00.125Z", Date.UTC(2026, 1, 28, 9, 30, 0, 125)],
    ["2026-02-28T09:30Z", Date.UTC(2026, 1, 28, 9, 30)],
    ["2026-02-28T09:30:00+02:00", Date.UTC(2026, 1, 28, 7, 30)],
    ["2026-02-28T09:30:00-0930", Date.UTC(2026, 1, 28, 19, 0)],
  ])("%s is read with its offset", (text, ms) => {
    expect(instantMs(text, "at")).toBe(ms);
  });

  it.each([
    "2026-02-28T09:30:00",
    "2026-02-28",
    "09:30Z",
    "",
    "x2026-02-28T09:30:00Z",
    "2026-02-28T09:30:00Zx",
    "2026-13-01T00:00:00Z",
  ])("%j is none", (text) => {
    expect(() => instantMs(text, "events.3.at")).toThrow(
      expect.objectContaining({ code: "bad-instant", path: "events.3.at" }) as Error,
    );
  });
});

describe("the order of a log", () => {
  it("goes by the instant, whatever its offset, then by the id", () => {
    const events = [
      { ...note("c", 0), at: "2026-06-01T10:00:00+02:00" },
      { ...note("b", 0), at: "2026-06-01T08:00:00Z" },
      { ...note("a", 0), at: "2026-06-01T08:00:00.001Z" },
      { ...note("d", 0), at: "2026-06-01T09:59:59+02:00" },
    ];
    expect(orderEvents(events).map((one) => one.id)).toEqual(["d", "b", "c", "a"]);
  });

  it("has every event once, in whatever order and however often they came", () => {
    const events = fc.uniqueArray(
      fc.record({ id: fc.string({ minLength: 1, maxLength: 3 }), minute: fc.integer({ min: 0, max: 5 }) }),
      { selector: (one) => one.id, maxLength: 20 },
    );
    fc.assert(
      fc.property(events, fc.infiniteStream(fc.nat()), (list, mixed) => {
        const log = list.map(({ id, minute }) => note(id, minute));
        const twice = [...log, ...log].map((one) => ({ one, at: must(mixed.next().value) }));
        const shuffled = twice.sort((a, b) => a.at - b.at).map(({ one }) => one);
        expect(orderEvents(shuffled)).toEqual(orderEvents(log));
      }),
    );
  });

  it("keeps the same of two events with one id on every device, whichever came first", () => {
    const [here, there] = [note("a", 1, "as left"), note("a", 1, "as found")];
    expect(orderEvents([here, there])).toEqual(orderEvents([there, here]));
    expect(orderEvents([here, there])).toEqual([there]);
    expect(orderEvents([there, here, here])).toEqual([there]);
  });
});

describe("what is taken back", () => {
  it("is what an undo names, and nothing that is not there", () => {
    expect(undone(note("a", 1), note("b", 2), undo("u", 3, "a"))).toEqual(["a"]);
    expect(undone(note("a", 1), undo("u", 3, "gone"))).toEqual([]);
  });

  it("is given back by an undo of the undo, and taken again by another", () => {
    const [a, u, v, w] = [note("a", 1), undo("u", 2, "a"), undo("v", 3, "u"), undo("w", 4, "v")];
    expect(undone(a, u, v)).toEqual(["u"]);
    expect(undone(a, u, v, w)).toEqual(["a", "v"]);
  });

  it("counts though a wrong clock put it before what it takes back, but no two undos void each other", () => {
    expect(undone(undo("u", 1, "a"), note("a", 5))).toEqual(["a"]);
    expect(undone(undo("u", 1, "v"), undo("v", 2, "u"))).toEqual(["u"]);
    expect(undone(undo("u", 1, "u"), note("a", 2))).toEqual([]);
  });

  it("stays once the sheet is closed: nothing after the closing is taken back, nor takes back", () => {
    const sign = event("s", 10, { type: "signed", role: "technician", name: "Ada", method: "password", eventCount: 2 });
    const end = event("s", 10, { type: "outcome", outcome: "no-access", reason: "Shut" });
    for (const closing of [sign, end]) {
      expect(undone(note("a", 1), undo("u", 2, "a"), closing)).toEqual(["a"]);
      expect(undone(note("a", 1), closing, undo("u", 11, "a"))).toEqual([]);
      expect(undone(note("a", 1), undo("u", 2, "s"), closing)).toEqual([]);
      expect(undone(undo("u", 2, "late"), closing, note("late", 12))).toEqual([]);
    }
  });

  it("is not closed by the customer, who signs before the technician does", () => {
    const customer = event("c", 5, { type: "signed", role: "customer", method: "typed", name: "Kim" });
    expect(closesRun(customer)).toBe(false);
    expect(undone(note("a", 1), customer, undo("u", 6, "a"))).toEqual(["a"]);
    expect(undone(note("a", 1), customer, undo("u", 6, "c"))).toEqual(["c"]);
  });
});

describe("what a signature that lists its entries saw", () => {
  const correct = (id: string, minute: number, ref: string): RunEvent =>
    event(id, minute, { type: "corrected", ref, set: { text: id }, why: "slip" });
  const sign = (minute: number, ...entries: string[]): RunEvent =>
    event("sign", minute, {
      type: "signed",
      role: "technician",
      name: "Ada",
      method: "password",
      eventCount: entries.length,
      entries,
    });
  const split = (...events: RunEvent[]): { counted: string[]; late: string[] } => {
    const { counted, late } = splitAtSignature(orderEvents(events));
    return { counted: counted.map((one) => one.id), late: late.map((one) => one.id) };
  };

  it("counts whatever their times say; what it did not see is late, though dated before it", () => {
    expect(split(note("a", 1), note("slipped", 2), sign(5, "a", "ahead"), note("ahead", 9), note("after", 10))).toEqual(
      {
        counted: ["a", "ahead", "sign"],
        late: ["slipped", "after"],
      },
    );
  });

  it("is not taken back, ended or signed anew afterwards", () => {
    const end = event("end", 2, { type: "outcome", outcome: "no-access", reason: "Shut" });
    const customer = event("c", 3, { type: "signed", role: "customer", method: "typed", name: "Kim" });
    const again = { ...sign(8, "a", "slipped"), id: "again" };
    expect(split(note("a", 1), undo("u", 2, "a"), end, customer, sign(5, "a"), again)).toEqual({
      counted: ["a", "sign"],
      late: ["end", "u", "c", "again"],
    });
  });

  it("is corrected, and so is a correction; what is no part of it is not", () => {
    expect(
      split(
        note("a", 1),
        correct("first", 6, "a"),
        correct("second", 7, "first"),
        correct("other", 7, "slipped"),
        correct("circle", 8, "round"),
        correct("round", 8, "circle"),
        correct("early", 0, "gone"),
        note("slipped", 2),
        sign(5, "a"),
      ),
    ).toEqual({
      counted: ["a", "sign", "early", "first", "second"],
      late: ["slipped", "other", "circle", "round"],
    });
  });

  it("is all there is where no signature lists anything", () => {
    const plain = event("s", 5, { type: "signed", role: "technician", name: "Ada", method: "password", eventCount: 1 });
    expect(split(note("a", 1), plain, note("b", 9))).toEqual({ counted: ["a", "s", "b"], late: [] });
  });
});
