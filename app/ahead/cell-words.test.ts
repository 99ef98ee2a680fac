import { AHEAD_CELLS, must } from "@core";

import { cellHead, cellWords, hoursWords } from "./cell-words";

const index = (span: string, n = 0): number =>
  must(AHEAD_CELLS.flatMap((cell, i) => (cell.span === span ? [i] : []))[n]);
const TODAY = "2026-06-10"; // a Wednesday

describe("cells of what is ahead, in words", () => {
  it("name days of the week ahead and months beyond", () => {
    expect([cellHead(index("today"), TODAY), cellWords(index("today"), TODAY)]).toEqual(["Wed 10", "today"]);
    expect([cellHead(index("week"), TODAY), cellWords(index("week"), TODAY)]).toEqual(["Thu 11", "Thu 11"]);
    expect(cellWords(index("month"), TODAY)).toMatch(/^17 Jun to /);
    expect(cellHead(index("month"), TODAY)).toBe("17 Jun");
  });

  it("have no head for what is overdue, but words", () => {
    expect([cellHead(index("overdue"), TODAY), cellWords(index("overdue"), TODAY)]).toEqual(["", "overdue"]);
  });

  it("run on over the end of a month and a year", () => {
    expect(cellHead(index("week", 1), "2026-12-30")).toBe("Fri 1");
    expect(cellHead(index("month"), "2026-12-28")).toBe("4 Jan");
  });
});

describe("minutes in words", () => {
  it.each([
    [0, "0 min"],
    [59.4, "59 min"],
    [59.6, "1 h"],
    [60, "1 h"],
    [61, "1 h 1 min"],
    [605, "10 h 5 min"],
  ])("%p are %p", (minutes, words) => {
    expect(hoursWords(minutes)).toBe(words);
  });
});
