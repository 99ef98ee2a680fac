import fc from "fast-check";

import { csvText, listed, MOST_FAULTS, MOST_ROWS, readTable } from "./csv-table.server";

const COLUMNS = ["tag", "name", "notes"] as const;
const read = (content: string) => readTable(content, COLUMNS, ["tag"]);
const cells = (content: string) => read(content).rows.map((row) => [row.cells.tag, row.cells.name, row.cells.notes]);

it("reads what a spreadsheet saves: comma, semicolon or tab, any line ends, a byte order mark", () => {
  for (const mark of [",", ";", "\t"])
    for (const end of ["\n", "\r\n", "\r"])
      for (const bom of ["", "\uFEFF"])
        expect(cells(`${bom}tag${mark}name${mark}notes${end}A1${mark}Oven${mark}${end}`)).toEqual([["A1", "Oven", ""]]);
});

it("takes the separator that the first line has most of, not one inside its quotes", () => {
  expect(cells('tag;name;notes\nA1;"1,5 L; tall";a,b,c\n')).toEqual([["A1", "1,5 L; tall", "a,b,c"]]);
  expect(read('"tag, of the machine";tag\nx;A1\n').faults).toMatchObject([{ column: "tag, of the machine" }]);
});

it("finds columns by name in any order and case, and tells an absent one from an empty one", () => {
  expect(cells(" Name ,TAG\nOven,A1\n")).toEqual([["A1", "Oven", undefined]]);
});

it("names every fault of the first line, and reads no row under a wrong one", () => {
  const { rows, faults } = read("name,name,colour,\nOven,Oven,red,\n");
  expect(rows).toEqual([]);
  expect(faults.map(({ line, column }) => [line, column])).toEqual([
    [1, "tag"],
    [1, "name"],
    [1, "colour"],
    [1, "column 4"],
  ]);
  expect(faults[2]?.reason).toContain("Known are: tag, name, notes.");
});

it("says that an empty file is empty", () => {
  for (const nothing of ["", "\n\n", "\uFEFF"])
    expect(read(nothing)).toMatchObject({
      rows: [],
      faults: [{ line: 1, reason: expect.stringMatching(/empty/) as string }],
    });
});

it("counts lines as an editor does, over blank lines and cells of several lines", () => {
  const { rows, faults } = read('tag,name\r\n\r\nA1,"two\r\nlines"\r\nA2,x,y\r\n\r\nA3,z\r\n');
  expect(rows.map((row) => [row.line, row.cells.tag])).toEqual([
    [3, "A1"],
    [7, "A3"],
  ]);
  expect(faults).toMatchObject([
    { line: 5, reason: expect.stringContaining("3 cells, the first line names 2") as string },
  ]);
});

it("stops at a quote that is never closed, and says where", () => {
  const { rows, faults } = read('tag,name\nA1,Oven\nA2,"open\n');
  expect(rows).toEqual([]);
  expect(faults).toHaveLength(1);
  expect(faults[0]?.reason).toMatch(/cannot be read from here on/);
});

it("writes numbers as numbers, nothing as nothing, and no text that a spreadsheet would work out", () => {
  expect(
    csvText(
      ["tag", "n"],
      [
        ["=1+1", -5],
        [null, 0.5],
        ["-", 1],
        ["'quoted", 2],
        ["a,b", 3],
      ],
    ),
  ).toBe("tag,n\r\n'=1+1,-5\r\n,0.5\r\n'-,1\r\n''quoted,2\r\n\"a,b\",3\r\n");
});

it("reads back what it wrote, whatever a person typed, each row on its line", () => {
  // A lone CR or a text of spaces is a cell like any other; a row of nothing is a blank line.
  const text = fc.string({
    unit: fc.constantFrom("a", "Ä", ",", ";", "\t", '"', "'", "=", "-", "\n", "\r\n", " ", "𝄞"),
  });
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constant("T"), text, text), { maxLength: 12 }), (rows) => {
      const content = csvText(COLUMNS, rows);
      const table = readTable(content, COLUMNS, []);
      expect(table.faults).toEqual([]);
      const back = table.rows.map((row) => COLUMNS.map((column) => row.cells[column] ?? ""));
      expect(back.map((row) => row.map((cell) => (cell.startsWith("'") ? cell.slice(1) : cell)))).toEqual(rows);
      const lines = content.split("\r\n");
      for (const row of table.rows) expect(row.line).toBeGreaterThan(1);
      expect(table.rows.length).toBeLessThan(lines.length);
    }),
  );
});

it("takes as many rows as a file may have, says that there are more, and lists a thousand faults", () => {
  const file = (rows: number, row = "T-1,N,") =>
    ["tag,name,notes", ...Array.from({ length: rows }, () => row)].join("\n");
  expect(readTable(file(MOST_ROWS), COLUMNS, []).rows).toHaveLength(MOST_ROWS);
  expect(readTable(file(MOST_ROWS + 1), COLUMNS, [])).toEqual({
    rows: [],
    faults: [{ line: 1, column: "", reason: "The file has more than 20,000 rows. Send it in parts." }],
  });
  const table = readTable(file(3000, "x"), COLUMNS, []);
  expect(table.rows).toEqual([]);
  const faults = listed(table.faults);
  expect(faults).toHaveLength(MOST_FAULTS + 1);
  expect(faults.at(-1)?.reason).toBe("2,000 more faults follow. Mend these first.");
});
