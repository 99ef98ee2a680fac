import type { DayPlan, DayProblem } from "@core";

import { doneStops } from "./done-stops";

const plan = (...stops: [site: string, arrive: number][]): DayPlan =>
  ({ stops: stops.map(([site, arrive]) => ({ site, arrive })) }) as DayPlan;
const at = (startAt: number): DayProblem => ({ startAt }) as DayProblem;

describe("stops that are behind", () => {
  const before = plan(["a", 500], ["b", 600], ["c", 700]);

  it("stay as they were planned when the rest is planned again", () => {
    expect(doneStops(before, plan(["c", 720]), at(650)).map((stop) => [stop.site, stop.arrive])).toEqual([
      ["a", 500],
      ["b", 600],
    ]);
  });

  it("are not those that are planned again, be it at once", () => {
    expect(doneStops(before, plan(["b", 650], ["c", 720]), at(650)).map((stop) => stop.site)).toEqual(["a"]);
  });

  it("are not those that were to come and are left out now", () => {
    expect(doneStops(before, plan(), at(600)).map((stop) => stop.site)).toEqual(["a"]);
  });
});
