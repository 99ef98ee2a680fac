import { idleAheadDays, nextOpenDay } from "./site-calendar";

const weekends = { closedWeekdays: [6, 7], closed: [] };
// 2026-04-03 is Good Friday and 2026-04-06 Easter Monday (Gregorian computus, published tables).
const easter = { closedWeekdays: [6, 7], closed: ["2026-04-03", "2026-04-06"].map((on) => ({ from: on, to: on })) };

describe("idleAheadDays", () => {
  it("is each Friday before a plain weekend", () => {
    expect(idleAheadDays(weekends, "2026-02-02", "2026-02-15")).toEqual(["2026-02-06", "2026-02-13"]);
  });
  it("moves to the Thursday before Good Friday, once for the whole stretch", () => {
    expect(idleAheadDays(easter, "2026-03-30", "2026-04-12")).toEqual(["2026-04-02", "2026-04-10"]);
  });
  it("can ask for long stretches only", () => {
    expect(idleAheadDays(easter, "2026-03-01", "2026-05-01", 3)).toEqual(["2026-04-02"]);
  });
  it("counts own closures, and finds nothing where nobody ever comes or nothing closes", () => {
    expect(
      idleAheadDays(
        { closedWeekdays: [], closed: [{ from: "2026-07-10", to: "2026-07-25" }] },
        "2026-07-01",
        "2026-07-31",
      ),
    ).toEqual(["2026-07-09"]);
    expect(idleAheadDays({ closedWeekdays: [1, 2, 3, 4, 5, 6, 7], closed: [] }, "2026-07-01", "2026-07-31")).toEqual(
      [],
    );
    expect(idleAheadDays({ closedWeekdays: [], closed: [] }, "2026-07-01", "2026-07-31")).toEqual([]);
  });
});

describe("nextOpenDay", () => {
  it("is Monday after Friday, and Tuesday over Easter", () => {
    expect(nextOpenDay(weekends, "2026-02-06")).toBe("2026-02-09");
    expect(nextOpenDay(easter, "2026-04-02")).toBe("2026-04-07");
  });
  it("is nothing where it never opens", () =>
    expect(nextOpenDay({ closedWeekdays: [1, 2, 3, 4, 5, 6, 7], closed: [] }, "2026-02-06")).toBeNull());
});
