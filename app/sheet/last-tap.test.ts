import type { RunEvent, RunEventBody } from "@core";

import { lastUndoable, tapWords } from "./last-tap";

let n = 0;
const entry = (minute: number, body: RunEventBody, by = "mo", device = "phone"): RunEvent => ({
  id: `e${String(++n).padStart(3, "0")}`,
  runId: "s",
  at: new Date(Date.UTC(2026, 5, 10, 8, minute)).toISOString(),
  by,
  device,
  ...body,
});
const note = (minute: number, by?: string, device?: string): RunEvent =>
  entry(minute, { type: "note", text: `at ${minute}` }, by, device);
const undo = (minute: number, ref: string, by?: string): RunEvent => entry(minute, { type: "undone", ref }, by);
const ids = (entries: RunEvent[], me = "mo"): string[] => lastUndoable(entries, me).map((one) => one.id);

describe("the last tap that can be taken back", () => {
  it("is the latest of one's own, in whatever order the log comes", () => {
    const [a, b, other] = [note(1), note(5), note(9, "kim")];
    expect(ids([other, b, a])).toEqual([b.id]);
    expect(ids([other, b, a], "kim")).toEqual([other.id]);
    expect(ids([other], "mo")).toEqual([]);
  });

  it("is all that one tap logged, on one device", () => {
    const use = entry(5, { type: "consumable-used", item: "wipes", qty: 1, unit: "pc" });
    const done = entry(5, { type: "step-done", step: "wipe", round: 1 });
    const tablet = note(5, "mo", "tablet");
    expect(ids([note(1), use, done])).toEqual([use.id, done.id]);
    expect(ids([use, done, tablet])).toEqual([tablet.id]);
  });

  it("is the one before once it was taken back, and stands again when that was taken back too", () => {
    const [a, b] = [note(1), note(2)];
    const back = undo(3, b.id);
    expect(ids([a, b, back])).toEqual([a.id]);
    expect(ids([a, b, back, undo(4, back.id)])).toEqual([b.id]);
  });

  it("is never what opened the sheet, handed it over or signed it", () => {
    const started = entry(1, { type: "started", planId: "d", procedureId: "p", procedureVersion: 1 });
    const handed = entry(2, { type: "handed-over", to: "kim" });
    const paused = entry(3, { type: "paused" });
    expect(ids([started, handed, paused])).toEqual([]);
  });
});

describe("what is taken back, in words", () => {
  it.each<[RunEventBody, string]>([
    [{ type: "reading", step: "gap", round: 1, value: 1.5, unit: "mm" }, "reading 1.5"],
    [{ type: "timer-started", step: "soak", round: 1 }, "clock started"],
    [{ type: "timer-stopped", step: "soak", round: 1 }, "clock stopped"],
    [{ type: "counted", step: "rinse", round: 1 }, "one count"],
    [{ type: "note", text: "x" }, "note"],
    [{ type: "finding", text: "x", severity: "minor" }, "finding"],
    [{ type: "step-done", step: "wipe", round: 1 }, "last step"],
  ])("%p", (body, words) => {
    expect(tapWords(entry(1, body))).toBe(words);
  });
});

it("every kind of tap that can be taken back has a word of its own", () => {
  const at = { step: "s", round: 1 };
  const words: [RunEventBody, string][] = [
    [{ type: "reading", ...at, value: 2.4, unit: "mm" }, "reading 2.4"],
    [{ type: "timer-started", ...at }, "clock started"],
    [{ type: "timer-stopped", ...at }, "clock stopped"],
    [{ type: "counted", ...at }, "one count"],
    [{ type: "part-fitted", ...at, item: "x", slot: "l", qty: 1 }, "part fitted"],
    [{ type: "part-turned", ...at, item: "x", slot: "l", usesLeft: 1 }, "part turned"],
    [{ type: "mixed", ...at, amounts: [], finalMl: 1 }, "solution"],
    [{ type: "photo", photo: "p" }, "picture"],
    [{ type: "consumable-used", item: "x", qty: 1, unit: "pc" }, "material used"],
    [{ type: "note", text: "x" }, "note"],
    [{ type: "finding", text: "x", severity: "minor" }, "finding"],
    [{ type: "safety-confirmed", ...at }, "last step"],
    [{ type: "step-done", ...at }, "last step"],
    [{ type: "step-skipped", ...at, reason: "x" }, "last step"],
    [{ type: "step-not-applicable", ...at, reason: "x" }, "last step"],
  ];
  for (const [body, expected] of words) {
    const tapped = entry(1, body);
    expect([body.type, tapWords(tapped)]).toEqual([body.type, expected]);
    expect(ids([tapped])).toEqual([tapped.id]);
  }
  const never: RunEventBody[] = [{ type: "resumed" }, { type: "paused" }, { type: "undone", ref: "x" }];
  for (const body of never) expect(ids([entry(1, body)])).toEqual([]);
});
