import { faultOf, sent } from "~/testing/sent";

import { chanceSchema, parseRoute, putWeekSchema, undoWeekSchema, workerSchema } from "./week-schemas";

const A = "0198f0aa-1111-7222-8333-444455556666";
const B = "0198f0aa-1111-7222-8333-444455557777";
const GONE = "This choice is not valid any more. Load the page again.";

describe("how often a proposed day has to hold", () => {
  it.each([
    ["80", 80],
    ["0", 0],
    ["99", 99],
  ])("%s percent", (percent, value) => expect(sent(chanceSchema, { percent }).value).toEqual({ percent: value }));
  it.each(["", "100", "-1", "80.5", "often"])("not %j", (percent) =>
    expect(faultOf(chanceSchema, {}, "percent", percent)).toBeTruthy(),
  );
});

describe("the undo of a week", () => {
  const placed = (count: number) =>
    JSON.stringify(Array.from({ length: count }, () => ({ dutyId: A, on: "2026-11-27", personId: B })));
  it("takes as many duties as a week has", () => {
    expect(sent(undoWeekSchema, { duties: placed(1500), before: placed(1500) }).value.before).toHaveLength(1500);
    expect(Object.keys(sent(undoWeekSchema, { duties: placed(1501), before: placed(1) }).faults)).toEqual(["duties"]);
    expect(Object.keys(sent(undoWeekSchema, { duties: "no list", before: "[]" }).faults).sort()).toEqual([
      "before",
      "duties",
    ]);
  });
});

describe("the week", () => {
  it("puts routes on days as they were proposed: person, day, duties", () => {
    const route = `${A} 6 ${B} ${A}`;
    expect(sent(putWeekSchema, { from: "2026-11-27", route }).value).toEqual({ from: "2026-11-27", route: [route] });
    expect(parseRoute(route)).toEqual({ person: A, day: 6, duties: [B, A] });
    expect(parseRoute(`${A} 0`)).toEqual({ person: A, day: 0, duties: [] });
  });

  it.each([`${A} 7`, A, `x 0 ${B}`, `${A} 0 duty`, `${A} 0  ${B}`])("does not take %j for a route", (route) => {
    expect(sent(putWeekSchema, { from: "2026-11-27", route }).faults).toEqual({ "route[0]": GONE });
  });

  it("without a proposal has nothing to put anywhere", () => {
    expect(sent(putWeekSchema, { from: "2026-11-27" }).faults.route).toMatch(/no proposal/);
    expect(sent(putWeekSchema, { route: `${A} 0` }).faults.from).toMatch(/first day is missing/);
  });

  it("knows who does what where: all families and sites unless some are named", () => {
    const right = { person: A, seen: "0123456789abcdef", dayFrom: "07:00", dayTo: "16:00" };
    expect(sent(workerSchema, right).value).toEqual({
      ...right,
      family: [],
      site: [],
      ...{ break1Minutes: 0, break1From: 0, break1By: 0, break2Minutes: 0, break2From: 0, break2By: 0 },
    });
    const rest = { break1Minutes: "30", break1From: "3", break1By: "5,5" };
    expect(sent(workerSchema, { ...right, ...rest }).value).toMatchObject({ break1Minutes: 30, break1By: 5.5 });
    expect(sent(workerSchema, { ...right, ...rest, break1By: "2" }).faults).toHaveProperty("break1By");
    expect(sent(workerSchema, { ...right, break2Minutes: "400" }).faults).toHaveProperty("break2Minutes");
    expect(sent(workerSchema, { ...right, family: "toaster", site: [A, B] }).value).toMatchObject({
      family: ["toaster"],
      site: [A, B],
    });
    expect(faultOf(workerSchema, right, "dayFrom", "7")).toBe("Write a time such as 07:00.");
  });
});
