import type { Limits, Step } from "./procedure";
import { trialScatter } from "./trial-scatter";

const timed = (limits?: Limits, more: object = {}): Step =>
  ({
    id: "t",
    kind: "measure",
    title: "T",
    reading: "belt-time",
    unit: "s",
    trials: 3,
    judge: "mean",
    limits,
    ...more,
  }) as Step;
const TOASTER = { min: 57, max: 63 };

describe("trials of one thing", () => {
  it.each([
    ["agree", TOASTER, [60, 61, 59], null],
    ["may lie apart by half the width of the limits", TOASTER, [58, 61, 59], null],
    ["scatter beyond it", TOASTER, [58, 61.1, 59], { apart: 3.1, most: 3 }],
    // The mean is within its limits, and says nothing.
    ["scatter around a mean that is right", TOASTER, [50, 60, 70], { apart: 20, most: 3 }],
    ["have open limits counted by their width too", { above: 57, below: 63 }, [58, 62], { apart: 4, most: 3 }],
    ["go by 5 % of their mean without a width", { min: 100 }, [200, 210], null],
    ["scatter beyond 5 % of their mean", { min: 100 }, [200, 211], { apart: 11, most: 10.275 }],
    ["without limits as well", undefined, [100, 120], { apart: 20, most: 5.5 }],
    ["are not faulted for how a figure is held", { min: 2, max: 2.4 }, [2.1, 2.3], null],
  ])("%s", (_, limits, values, scatter) => {
    const found = trialScatter(timed(limits), values);
    if (scatter === null) expect(found).toBeNull();
    else {
      expect(found?.apart).toBeCloseTo(scatter.apart, 9);
      expect(found?.most).toBeCloseTo(scatter.most, 9);
    }
  });

  it("are what is averaged: not points, single readings, what is judged one by one, or other steps", () => {
    expect(trialScatter(timed(TOASTER, { trials: undefined, points: ["left", "right"] }), [1, 99])).toBeNull();
    expect(trialScatter(timed(TOASTER, { judge: "each" }), [1, 99])).toBeNull();
    expect(trialScatter(timed(TOASTER, { judge: "spread" }), [1, 99])).toBeNull();
    expect(trialScatter(timed(TOASTER), [1])).toBeNull();
    expect(trialScatter({ id: "d", kind: "do", title: "D" }, [1, 99])).toBeNull();
  });
});
