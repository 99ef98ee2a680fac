import type { DayStop } from "@core";
import fc from "fast-check";

import { axisMarks, barAt, letterOf, percent, scoreLayout } from "./score-layout";

type Phase = DayStop["schedule"]["phases"][number];
const phase = (job: string, index: number, start: number, end: number, technician?: number): Phase => ({
  job,
  index,
  start,
  end,
  ...(technician === undefined ? {} : { technician }),
});
const hands = (minutes: number) => ({ kind: "hands" as const, minutes });
const wait = (minutes: number, maxMinutes?: number) => ({
  kind: "wait" as const,
  minutes,
  ...(maxMinutes === undefined ? {} : { maxMinutes }),
});
const visit = (phases: Phase[]) => ({
  arrive: 480,
  leave: 600,
  schedule: { phases, makespan: 120, status: "optimal", lowerBound: 120 } as DayStop["schedule"],
});
const PHASES = [
  phase("ice", 0, 480, 500, 0),
  phase("ice", 1, 500, 530),
  phase("ice", 2, 530, 540, 1),
  phase("oven", 0, 500, 520, 0),
  phase("oven", 1, 520, 520),
];
const JOBS = [
  { id: "ice", phases: [hands(20), wait(30, 45), hands(10)] },
  { id: "oven", phases: [hands(20), wait(0)] },
];
const layout = (more: Partial<Parameters<typeof scoreLayout>[0]> = {}) =>
  scoreLayout({ stop: visit(PHASES), jobs: JOBS, actual: [], now: null, technicians: 2, ...more });

describe("the score of a visit", () => {
  it("has what each pair of hands does, tied by letters to a lane for each machine in the order they begin", () => {
    const { hands: pairs, lanes } = layout();
    expect(pairs.map((bars) => bars.map((bar) => [bar.letter, bar.from, bar.to]))).toEqual([
      [
        ["A", 480, 500],
        ["B", 500, 520],
      ],
      [["A", 530, 540]],
    ]);
    expect(lanes.map((lane) => [lane.letter, lane.job, lane.bars.map((bar) => bar.hands)])).toEqual([
      ["A", "ice", [true, false, true]],
      ["B", "oven", [true]],
    ]);
  });

  it("gives a wait that must not last longer the moment to be back, other waits none", () => {
    const backs = layout().lanes.flatMap((lane) => lane.bars.map((bar) => bar.backBy));
    expect(backs).toEqual([null, 545, null, null]);
    const open = [{ id: "ice", phases: [hands(20), wait(30), hands(10)] }];
    expect(layout({ jobs: open }).lanes[0]?.bars.map((bar) => bar.backBy)).toEqual([null, null, null]);
    // A duty that is not on the day any more still stands in its plan.
    expect(layout({ jobs: [] }).lanes).toHaveLength(2);
  });

  it("draws nothing that takes no time, but keeps its lane", () => {
    const { lanes, list } = layout({ stop: visit([phase("oven", 0, 500, 500, 0)]) });
    expect([lanes.map((lane) => lane.job), lanes[0]?.bars, list]).toEqual([["oven"], [], []]);
  });

  it("lists the phases as the day goes", () => {
    expect(layout().list.map((one) => `${one.job} ${one.index}`)).toEqual(["ice 0", "oven 0", "ice 1", "ice 2"]);
  });

  it("shows what really happened in the same lanes, up to now while it goes on", () => {
    const actual = [
      { dutyId: "ice", from: 485, to: null, waits: [[500, null]] as [number, number | null][] },
      { dutyId: "elsewhere", from: 100, to: 900, waits: [] },
    ];
    const going = layout({ actual, now: 640 });
    expect(going.lanes.map((lane) => lane.worked)).toEqual([
      { from: 485, to: 640, waits: [{ from: 500, to: 640 }] },
      null,
    ]);
    expect(going.span).toEqual({ from: 480, to: 640 });
    // Of another day there is no now: it is drawn where it began.
    expect(layout({ actual, now: null }).lanes[0]?.worked).toMatchObject({ from: 485, to: 485 });
    const early = layout({ actual: [{ dutyId: "oven", from: 470, to: 480, waits: [] }] });
    expect(early.span).toEqual({ from: 470, to: 600 });
  });

  it("reaches from arriving to leaving where the work is shorter", () => {
    expect(layout({ stop: visit([]) })).toEqual({ span: { from: 480, to: 600 }, hands: [[], []], lanes: [], list: [] });
  });
});

it("letters go on after Z", () => {
  expect([0, 25, 26, 51, 52, 701, 702].map(letterOf)).toEqual(["A", "Z", "AA", "AZ", "BA", "ZZ", "AAA"]);
});

it("places on the axis are shares of the span, of no span its beginning", () => {
  expect(percent(540, { from: 480, to: 600 })).toBe(50);
  expect(percent(480, { from: 480, to: 480 })).toBe(0);
});

it("an axis has round marks within its span, about half a dozen", () => {
  expect(axisMarks({ from: 485, to: 605 })).toEqual([510, 540, 570, 600]);
  expect(axisMarks({ from: 480, to: 510 })).toEqual([480, 485, 490, 495, 500, 505, 510]);
  expect(axisMarks({ from: 481, to: 482 })).toEqual([]);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1440 }), fc.integer({ min: 0, max: 1440 }), (from, length) => {
      const marks = axisMarks({ from, to: from + length });
      expect(marks.length).toBeLessThanOrEqual(7);
      expect(marks.every((one) => one >= from && one <= from + length && one % 5 === 0)).toBe(true);
      const gaps = new Set(marks.slice(1).map((one, i) => one - (marks[i] ?? 0)));
      expect(gaps.size).toBeLessThanOrEqual(1);
    }),
  );
});

it("means by a place on a lane the bar there, or the nearest: a short one can be met by a finger", () => {
  const { hands: lanes } = layout();
  const [bars = []] = lanes;
  expect(bars.map((bar) => [bar.job, bar.from, bar.to])).toEqual([
    ["ice", 480, 500],
    ["oven", 500, 520],
  ]);
  expect(barAt(bars, 490)?.job).toBe("ice");
  expect(barAt(bars, 900)?.job).toBe("oven");
  expect(barAt(bars, 0)?.job).toBe("ice");
  expect(barAt([], 490)).toBeNull();
});
