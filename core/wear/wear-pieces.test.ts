import { dayOfUse, DAYS, useLine, useOn, wearPieces } from "./index";

const found = (at: number, value: number) => ({ at, use: at, value, stage: "found" as const, confirmed: false });
const left = (at: number, value: number) => ({ ...found(at, value), stage: "left" as const });
const told = (values: Parameters<typeof wearPieces>[0], fitted: number[]) =>
  wearPieces(values, fitted).map(({ began, by, ended, values: of }) => [began, by, ended, of.map((one) => one.value)]);

describe("a slot's values", () => {
  it("begin a new line with each new piece; what was found before it is the old one's", () => {
    expect(told([found(1, 3), found(5, 2), left(5, 4), found(9, 3.8)], [5])).toEqual([
      [null, null, 5, [3, 2]],
      [5, "piece", null, [4, 3.8]],
    ]);
  });

  it("begin a new line with an adjustment: as left counts from there", () => {
    expect(told([found(1, 3), found(4, 2), left(4, 2.9), found(8, 2.5)], [])).toEqual([
      [null, null, 4, [3, 2]],
      [4, "adjustment", null, [2.9, 2.5]],
    ]);
  });

  it("in any order are the same, and a piece of which nothing was read is there without values", () => {
    expect(told([found(9, 1), found(1, 3)], [12, 5])).toEqual([
      [null, null, 5, [3]],
      [5, "piece", 12, [1]],
      [12, "piece", null, []],
    ]);
    expect(told([], [])).toEqual([]);
    expect(told([left(3, 4), left(4, 4.1)], [2])).toEqual([[2, "piece", null, [4, 4.1]]]);
  });
});

const DAY = 86_400_000;
const on = (day: number): number => day * DAY;

describe("the use of a machine", () => {
  const line = useLine([
    { at: on(0), value: 100 },
    { at: on(10), value: 150 },
    { at: on(20), value: 160 },
  ]);

  it("lies on straight lines between what was read, and goes on at the rate of the last quarter", () => {
    expect([5, 10, 15, 20, 30, -2].map((day) => line?.at(on(day)))).toEqual([25, 50, 55, 60, 90, -10]);
    expect(line?.rate).toBeCloseTo(3, 12);
  });

  it("goes on where a meter was replaced by one that began at nothing", () => {
    const replaced = useLine([
      { at: on(0), value: 900 },
      { at: on(1), value: 910 },
      { at: on(2), value: 4 },
    ]);
    expect(replaced?.at(on(2))).toBe(14);
  });

  it("is not known of a single reading, and stands still where nothing was added", () => {
    expect(useLine([])).toBeNull();
    expect(
      useLine([
        { at: 5, value: 1 },
        { at: 5, value: 2 },
      ]),
    ).toBeNull();
    const still = useLine([
      { at: on(0), value: 7 },
      { at: on(200), value: 7 },
    ]);
    expect([still?.rate, still?.at(on(400))]).toEqual([0, 0]);
  });

  it("goes by the step before where the last quarter has one reading only", () => {
    const sparse = useLine([
      { at: on(0), value: 0 },
      { at: on(300), value: 600 },
    ]);
    expect(sparse?.rate).toBeCloseTo(2, 12);
  });

  it("by days is the days themselves", () => {
    expect(DAYS.at(on(3))).toBe(3);
  });
});

describe("the day of a use", () => {
  const now = { useNow: 100, rate: 2, asOf: "2026-11-30" };

  it("is as many days on as it takes, and there is none where nothing is used or it is beyond planning", () => {
    expect(dayOfUse(now, 120)).toBe("2026-12-10");
    expect(dayOfUse(now, 90)).toBe("2026-11-25");
    expect(useOn(now, "2026-12-10")).toBe(120);
    expect(dayOfUse({ ...now, rate: 0 }, 120)).toBeNull();
    expect(dayOfUse({ ...now, rate: null }, 120)).toBeNull();
    expect(dayOfUse(now, 1e9)).toBeNull();
  });
});
