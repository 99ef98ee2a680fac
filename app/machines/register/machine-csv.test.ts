import { must } from "@core";

import { guardText, unguardText } from "~/kit/server/csv-table.server";

import { parseMachineCsv, parseRegister, writeMachineCsv, writeMachineJson } from "./machine-csv.server";

const HEAD = "customer,site,time_zone,tag,name,family";
const row = (tag: string, name = "N"): string => `C,S,UTC,${tag},${name},flake-ice-maker`;

describe("what a spreadsheet would run", () => {
  it.each(["=1+1", "+1", "-1", "@a", "\tx", "\rx", "'x", "''x"])(
    "%j gets one apostrophe more, and loses exactly one",
    (text) => {
      expect(guardText(text)).toBe(`'${text}`);
      expect(unguardText(guardText(text))).toBe(text);
    },
  );
  it("leaves other text alone", () => {
    expect(guardText("a=b")).toBe("a=b");
    expect(unguardText("a'b")).toBe("a'b");
  });
  it("never touches numbers", () => {
    const [good] = parseMachineCsv(`${HEAD},water_hardness_mg_l\n${row("A")},80.5`).good;
    expect(writeMachineCsv([must(good).record])).toContain(",80.5,");
    expect(writeMachineCsv([{ ...must(good).record, water_hardness_mg_l: -1 }])).toContain(",-1,");
  });
});

describe("reading", () => {
  it.each([",", ";", "\t"])("takes %j between cells, with a mark at the front and any line ends", (mark) => {
    for (const end of ["\n", "\r\n", "\r"]) {
      const content = `\uFEFF${[HEAD, row("A"), row("B", '"x"')].join(end).replaceAll(",", mark)}${end}`;
      const { good, faults } = parseMachineCsv(content);
      expect(faults).toEqual([]);
      expect(good.map((one) => [one.line, one.record.tag])).toEqual([
        [2, "A"],
        [3, "B"],
      ]);
    }
  });

  it.each(["\n", "\r\n"])("counts lines over quoted line ends and blank lines (%j)", (end) => {
    const content = [HEAD, row("A", `"two${end}lines"`), "", row("B B"), row("C")].join(end);
    const { good, faults } = parseMachineCsv(content);
    expect(good.map((one) => one.line)).toEqual([2, 6]);
    expect(faults).toMatchObject([{ line: 5, column: "tag" }]);
  });

  it("says which columns are missing, unknown or there twice, and reads no rows then", () => {
    const { good, faults } = parseMachineCsv("customer,site,tag,name,family,colour,tag\nC,S,A,N,flake-ice-maker,red,B");
    expect(good).toEqual([]);
    expect(faults.map((fault) => fault.column)).toEqual(["time_zone", "tag", "colour"]);
  });

  it("names the fault of a row with too many cells, of a broken quote, of an empty file", () => {
    expect(parseMachineCsv(`${HEAD}\n${row("A")},more`).faults).toMatchObject([
      { line: 2, reason: expect.stringContaining("7 cells") },
    ]);
    expect(must(parseMachineCsv(`${HEAD}\n${row("A", '"open')}`).faults[0]).reason).toContain("cannot be read");
    expect(parseMachineCsv("").faults).toMatchObject([{ line: 1, reason: expect.stringContaining("empty") }]);
  });

  it("finds repeated tags and sites that contradict themselves", () => {
    const { good, faults } = parseMachineCsv(`${HEAD},address\n${row("A")},x\n${row("a")},x\n${row("B")},y`);
    expect(good.map((one) => one.record.tag)).toEqual(["A"]);
    expect(faults).toMatchObject([
      { line: 3, column: "tag" },
      { line: 4, column: "address", reason: expect.stringContaining("Line 2 says otherwise") },
    ]);
  });
});

describe("the register as JSON", () => {
  const csv = `${HEAD},options,latitude,holiday_region,position\n${row("A")},water-filter|two-lane,38.5,PT,Behind the bar\n${row("B", "-1+1")},,38.5,PT,`;
  it("holds the same as the CSV, and comes back the same", () => {
    const records = parseRegister(csv).good.map((one) => one.record);
    const json = writeMachineJson(records);
    expect(parseRegister(json)).toMatchObject({
      good: [expect.objectContaining({ record: records[0] }), expect.objectContaining({ record: records[1] })],
      faults: [],
    });
    expect(writeMachineCsv(parseRegister(json).good.map((one) => one.record))).toBe(writeMachineCsv(records));
    expect((JSON.parse(json) as unknown[])[0]).toMatchObject({
      tag: "A",
      options: ["water-filter", "two-lane"],
      latitude: 38.5,
      position: "Behind the bar",
    });
  });
  it("names the machine, the field and the reason of what is wrong", () => {
    const machine = { customer: "C", site: "S", time_zone: "UTC", tag: "A", name: "N", family: "flake-ice-maker" };
    expect(parseRegister(JSON.stringify([machine, { ...machine, tag: "B B", colour: "red" }, 7])).faults).toMatchObject(
      [
        { line: 2, column: "colour" },
        { line: 3, column: "" },
      ],
    );
    expect(parseRegister(JSON.stringify([{ ...machine, tag: "B B" }])).faults).toMatchObject([
      { line: 1, column: "tag" },
    ]);
    expect(must(parseRegister("[{").faults[0]).reason).toContain("JSON");
    expect(parseRegister('[{"tag": 7}]').faults.length).toBeGreaterThan(0);
  });
});

it("leaves what a file has no column for out, so that the register keeps its own", () => {
  const [without] = parseMachineCsv(`${HEAD}\n${row("A")}`).good;
  expect([must(without).record.latitude, must(without).record.position, must(without).record.holiday_region]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
  const [empty] = parseMachineCsv(`${HEAD},latitude,position\n${row("A")},,`).good;
  expect([must(empty).record.latitude, must(empty).record.position]).toEqual([null, ""]);
});

it("counts the faults of rows and of cells together when there are more than are listed", () => {
  const header = "customer,site,time_zone,tag,name,family";
  const short = Array.from({ length: 1200 }, () => "x");
  const wrong = Array.from({ length: 300 }, (_, i) => `C,S,Europe/Lisbon,T-${i},N,No/Family`);
  const { good, faults } = parseMachineCsv([header, ...short, ...wrong].join("\n"));
  expect(good).toEqual([]);
  expect(faults).toHaveLength(1001);
  expect(faults.at(-1)?.reason).toBe("500 more faults follow. Mend these first.");
});

it("takes a family by what people call it, and none that stands for all", () => {
  const { good, faults } = parseMachineCsv([HEAD, "C,S,UTC,A,N,Flake  ice maker", "C,S,UTC,B,N,any"].join("\n"));
  expect(good.map((one) => one.record.family)).toEqual(["flake-ice-maker"]);
  expect(faults).toMatchObject([{ line: 3, column: "family" }]);
});
