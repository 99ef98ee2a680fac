import { loggedClocks } from "./logged-clocks";
import { TestLog } from "./testing/runs";

const spans = (work: (log: TestLog) => void) => {
  const log = new TestLog();
  work(log);
  const minute = (at: string): number => new Date(at).getUTCMinutes();
  return loggedClocks(log.events).map((one) => [minute(one.startedAt), one.stoppedAt && minute(one.stoppedAt)]);
};
const start = (log: TestLog, step: string, after = 1, round = 1) =>
  log.add({ type: "timer-started", step, round }, { after });
const stop = (log: TestLog, step: string, after = 1, round = 1) =>
  log.add({ type: "timer-stopped", step, round }, { after });

it("ends each clock with its own step, whichever began last", () =>
  expect(
    spans((log) => {
      start(log, "soak", 1);
      start(log, "dry", 4);
      stop(log, "soak", 10);
    }),
  ).toEqual([
    [1, 15],
    [5, null],
  ]));

it("ends the clock of a gate when it is confirmed, and makes none of a gate without", () =>
  expect(
    spans((log) => {
      log.safe("still");
      start(log, "cool", 1);
      log.safe("cool");
    }),
  ).toEqual([[2, 3]]));

it("begins nothing with a second tap, and anew in another round or once it was stopped", () =>
  expect(
    spans((log) => {
      start(log, "soak", 1);
      start(log, "soak", 2);
      stop(log, "soak", 2);
      start(log, "soak", 1, 2);
      start(log, "soak", 1);
      stop(log, "soak", 1);
    }),
  ).toEqual([
    [1, 5],
    [6, null],
    [7, 8],
  ]));

it("knows nothing of a start that was taken back", () =>
  expect(
    spans((log) => {
      const begun = start(log, "soak", 1);
      log.add({ type: "undone", ref: begun.id });
      start(log, "soak", 3);
    }),
  ).toEqual([[5, null]]));
