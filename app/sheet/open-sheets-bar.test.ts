import type { RunEvent, RunEventBody } from "@core";

import { runningClocks } from "./open-sheets-bar";

let count = 0;
const entry = (minute: number, body: RunEventBody): RunEvent => ({
  id: `e${++count}`,
  runId: "r",
  at: `2026-06-10T08:${String(minute).padStart(2, "0")}:00.000Z`,
  by: "a",
  device: "d",
  ...body,
});
const on = { step: "soak", round: 1 };
const clocks = { soak: { title: "Soak", minMinutes: 15, maxMinutes: 20 }, cool: { title: "Cool", minMinutes: 30 } };
const steps = (entries: RunEvent[]): string[] => runningClocks(clocks, entries).map((one) => one.step);

it("shows what runs, once, in whatever order it came", () => {
  const started = entry(1, { type: "timer-started", ...on });
  expect(steps([started, started])).toEqual(["soak"]);
  expect(steps([entry(5, { type: "timer-stopped", ...on }), started])).toEqual([]);
  expect(steps([entry(5, { type: "undone", ref: started.id }), started])).toEqual([]);
});
it("starts a clock again whose stop was undone", () => {
  const started = entry(1, { type: "timer-started", ...on });
  const stopped = entry(5, { type: "timer-stopped", ...on });
  expect(steps([started, stopped, entry(6, { type: "undone", ref: stopped.id })])).toEqual(["soak"]);
});
it("ends a cool-down with the confirmation, and ignores clocks that the version does not have", () => {
  const cool = { step: "cool", round: 1 };
  expect(
    steps([entry(1, { type: "timer-started", ...cool }), entry(2, { type: "timer-started", step: "other", round: 1 })]),
  ).toEqual(["cool"]);
  expect(
    steps([entry(1, { type: "timer-started", ...cool }), entry(32, { type: "safety-confirmed", ...cool })]),
  ).toEqual([]);
});
