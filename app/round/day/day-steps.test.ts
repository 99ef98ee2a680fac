import type { DayEventRow, DayRow } from "@db";

import { NEXT } from "./day-steps";

const day = (status: DayRow["status"]): DayRow => ({ status }) as DayRow;
const log = (...entries: [type: DayEventRow["type"], siteId: string | null][]): DayEventRow[] =>
  entries.map(([type, siteId]) => ({ type, siteId }) as DayEventRow);

describe("what can be logged on a day", () => {
  it("begins with its start, once", () => {
    expect(NEXT.started(day("open"), [], null)).toBeNull();
    expect(NEXT.started(day("started"), [], null)).toMatch(/started already/);
    expect(NEXT.started(day("ended"), [], null)).toMatch(/started already/);
    for (const type of ["arrived", "left", "skipped", "ended"] as const) {
      expect(NEXT[type](day("open"), [], "a")).toBe("Start the day first.");
      expect(NEXT[type](day("ended"), [], "a")).toBe("This day has ended.");
    }
  });

  it("is at one site at a time, and leaves the one it is at", () => {
    const here = log(["started", null], ["arrived", "a"]);
    expect(NEXT.arrived(day("started"), log(["started", null]), "a")).toBeNull();
    expect(NEXT.arrived(day("started"), here, "b")).toMatch(/Leave the site/);
    expect(NEXT.left(day("started"), here, "b")).toMatch(/not at this site/);
    expect(NEXT.left(day("started"), here, "a")).toBeNull();
    expect(NEXT.left(day("started"), log(["started", null]), "a")).toMatch(/not at this site/);
  });

  it("goes by the last coming or going, whatever was logged between", () => {
    const gone = log(["arrived", "a"], ["left", "a"], ["skipped", "b"], ["replanned", null]);
    expect(NEXT.arrived(day("started"), gone, "c")).toBeNull();
    expect(NEXT.left(day("started"), gone, "a")).toMatch(/not at this site/);
    const again = log(["arrived", "a"], ["left", "a"], ["arrived", "a"], ["replanned", null]);
    expect(NEXT.left(day("started"), again, "a")).toBeNull();
  });

  it("ends away from any site; a site can be skipped from anywhere", () => {
    const here = log(["arrived", "a"]);
    expect(NEXT.ended(day("started"), here, null)).toMatch(/Leave the site/);
    expect(NEXT.ended(day("started"), log(["arrived", "a"], ["left", "a"]), null)).toBeNull();
    expect(NEXT.skipped(day("started"), here, "b")).toBeNull();
  });
});
