import { addDays } from "../days/add-days";
import { must } from "../must";
import { AHEAD_CELLS, AHEAD_DAYS, aheadCell, cellDays } from "./spans";

const TODAY = "2026-12-30";

it("holds every day of the year once, and everything overdue together", () => {
  for (let day = 0; day <= AHEAD_DAYS; day++) {
    const on = addDays(TODAY, day);
    const index = aheadCell(on, TODAY);
    const { from, to } = cellDays(must(AHEAD_CELLS[index]), TODAY);
    expect([must(from) <= on, on <= to]).toEqual([true, true]);
  }
  expect(aheadCell("2020-01-01", TODAY)).toBe(0);
  expect(aheadCell(addDays(TODAY, -1), TODAY)).toBe(0);
  expect(aheadCell(addDays(TODAY, AHEAD_DAYS + 1), TODAY)).toBe(-1);
});

it("shows the next week day by day and gets coarser", () => {
  const lengths = AHEAD_CELLS.slice(1).map((cell) => cell.toDay - must(cell.fromDay) + 1);
  expect(lengths.slice(0, 7)).toEqual([1, 1, 1, 1, 1, 1, 1]);
  expect(AHEAD_CELLS.map((cell) => cell.span).filter((span, i, all) => span !== all[i - 1])).toEqual([
    "overdue",
    "today",
    "week",
    "month",
    "quarter",
    "year",
  ]);
});
