import * as yup from "yup";

import { answerTo } from "./answer-to";
import {
  clock,
  csvFile,
  cursor,
  day,
  file,
  hiddenId,
  id,
  key,
  listOf,
  meterValue,
  number,
  password,
  photo,
  quantity,
  slug,
  text,
  ticked,
  timeZone,
  whole,
} from "./fields";
import { parseWithYup } from "./parse-form";
import { metaOf } from "./read-fields";
import { understood } from "./understood";

const takes = (schema: yup.AnySchema, value: unknown): boolean => schema.isValidSync(value);

it.each([
  ["2026-02-28", true],
  ["2024-02-29", true],
  ["2026-02-29", false],
  ["2026-13-01", false],
  ["0001-01-01", false],
  ["9999-12-31", false],
  ["0000-00-00", false],
  ["2026-2-8", false],
  ["2026-02-28T00:00", false],
])("a day: %s", (value, good) => expect(takes(day(), value)).toBe(good));

it.each([
  ["1.5", 1.5],
  ["1,5", 1.5],
  ["\u22122", -2],
  [" 7 ", 7],
  [".5", 0.5],
])("a number as typed: %s", (typed, value) => expect(number().cast(typed)).toBe(value));

it.each(["1e5", "0x10", "Infinity", "NaN", "1.2.3", "", "ten", "1".repeat(25)])("no number: %s", (typed) =>
  expect(takes(number().required(), typed)).toBe(false),
);

it("a quantity is what the books can hold", () => {
  expect(takes(quantity(), "10000000")).toBe(true);
  expect(takes(quantity(), "1000000000000")).toBe(false);
});

it("texts have no signs that cannot be kept, and are counted", () => {
  expect(takes(text(5), "a\tb\n")).toBe(true);
  expect(takes(text(5), "a\u0000b")).toBe(false);
  expect(takes(text(5), "\ud800")).toBe(false);
  expect(takes(text(5), "\ud83d\udc36")).toBe(true);
  expect(takes(text(5), "123456")).toBe(false);
  // What no form sends is no text, and stops nothing.
  expect(takes(text(5).required(), ["a"])).toBe(false);
  expect(takes(text(5).required(), { a: "a" })).toBe(false);
  expect(text(5).cast("  x ")).toBe("x");
});

it("ids, keys, short names and times have one form", () => {
  expect(takes(id(), "0198f0aa-1111-7222-8333-444455556666")).toBe(true);
  expect(takes(id(), "0198F0AA-1111-7222-8333-444455556666")).toBe(false);
  expect(takes(id(), "x".repeat(36))).toBe(false);
  expect(takes(key(), "own-duty")).toBe(true);
  expect(takes(key(), "dütü")).toBe(false);
  expect(takes(slug("a-b"), "a-b-c")).toBe(true);
  expect(takes(slug("a-b"), "__proto__")).toBe(false);
  expect(takes(clock(), "23:59")).toBe(true);
  expect(takes(clock(), "24:00")).toBe(false);
  expect(takes(whole(0, 5), "5")).toBe(true);
  expect(takes(whole(0, 5), "5.5")).toBe(false);
  expect(takes(cursor(), "Hall 3_0198f0aa-1111-7222-8333-444455556666")).toBe(true);
  expect(takes(cursor(), "a\u001fb")).toBe(true);
  expect(takes(cursor(), "\ud800")).toBe(false);
});

const schema = yup.object({
  name: text(20).required("Give a name."),
  password: password("Type it."),
  thing: hiddenId(),
  ids: listOf(id().required(), 3),
  box: ticked(),
  rows: yup.array(yup.object({ every: number(), note: text(9) })),
});
it("the browser takes empty optional fields for not given, and reads ticks and lists alike", () => {
  const form = new FormData();
  for (const [name, value] of [
    ["name", "x"],
    ["password", "y"],
    ["thing", "0198f0aa-1111-7222-8333-444455556666"],
    ["ids", "0198f0aa-1111-7222-8333-444455556666"],
    ["rows[0].every", ""],
    ["box", "on"],
  ] as const)
    form.set(name, value);
  const submission = parseWithYup(form, { schema });
  expect(submission.status).toBe("success");
  expect(submission).toHaveProperty("value.ids", ["0198f0aa-1111-7222-8333-444455556666"]);
  expect(submission).toHaveProperty("value.box", true);
  expect(parseWithYup(new FormData(), { schema })).toHaveProperty("error.name", ["Give a name."]);
});

it("an answer belongs to one form, and to one row of several alike", () => {
  const answer = {
    form: "line",
    errors: { packs: ["?"] },
    message: null,
    said: null,
    values: { line: "7" },
    result: null,
  };
  expect(answerTo(answer, "line", ["line", "7"]).refused).toBe(true);
  expect(answerTo(answer, "line", ["line", "8"]).refused).toBe(false);
  expect(answerTo(answer, "add").errors).toEqual({});
});

const fault = (schema: yup.AnySchema, value: unknown): string => {
  try {
    schema.validateSync(value);
    return "";
  } catch (error) {
    return (error as Error).message;
  }
};

it("time zones are those that there are", () => {
  expect(fault(timeZone(), "Atlantic/Azores")).toBe("");
  expect(fault(timeZone(), undefined)).toBe("");
  expect(fault(timeZone(), "Azores")).toBe("Use a name such as Europe/Lisbon.");
  expect(fault(timeZone(), `Europe/${"x".repeat(60)}`)).toBe("Use a name such as Europe/Lisbon.");
});

it("a meter shows from nothing to more than it will ever", () => {
  expect([0, "0,5", "1000000000000"].map((value) => fault(meterValue(), value))).toEqual(["", "", ""]);
  expect(fault(meterValue(), "-0.1")).toBe("A meter shows zero or more.");
  expect(fault(meterValue(), "1000000000001")).toBe("That is more than a meter can show.");
  expect(fault(meterValue(), "x")).toBe("Type the figure the meter shows.");
});

it("numbers that are no text are taken as they are, and judged", () => {
  expect([fault(number(), 7), fault(number(), undefined)]).toEqual(["", ""]);
  expect(fault(number(), NaN)).toBe("Type a number.");
  expect(fault(whole(1, 5), 6)).toBe("At most 5.");
  expect(fault(whole(1, 5000), "5001")).toBe("At most 5,000.");
});

it("a list of one is a list, and a list stays one", () => {
  expect(listOf(text(9)).cast("a")).toEqual(["a"]);
  expect(listOf(text(9)).cast(["a", "b"])).toEqual(["a", "b"]);
  expect(fault(listOf(text(9), 2), ["a", "b", "c"])).toBe("At most 2 in one go.");
});

describe("a file", () => {
  const sized = (bytes: number) => new File([new Uint8Array(bytes)], "a.csv");
  const MB = 1024 * 1024;

  it("is no larger than said, and says how large it may be", () => {
    expect(fault(file(2 * MB), sized(2 * MB))).toBe("");
    expect(fault(file(2 * MB), undefined)).toBe("");
    expect(fault(file(2 * MB), sized(2 * MB + 1))).toBe(
      "The file is larger than 2 MB. Split it, each part with the first line.",
    );
    expect(fault(file(10, "Too large."), sized(11))).toBe("Too large.");
    expect(fault(photo(), sized(10 * MB + 1))).toMatch(/The picture is too large/);
    expect(metaOf(yup.object({ f: file(7) }), "f").maxBytes).toBe(7);
    expect(metaOf(yup.object({ f: photo() }), "f").maxBytes).toBe(10 * MB);
  });

  it("is a file, and where a table is needed there is one", () => {
    expect(fault(file(10), "a.csv")).toBe("Choose a file.");
    expect(fault(csvFile(), undefined)).toBe("Choose a CSV file first. Nothing was changed.");
    expect(fault(csvFile(), sized(8 * MB))).toBe("");
    expect(fault(csvFile(), sized(8 * MB + 1))).toMatch(/larger than 8 MB/);
  });
});

it("a text with a reader of its own says what the reader says", () => {
  const read = (value: string): void => {
    if (value === "bad") throw new Error("“bad” is not understood.");

    if (value === "worse") throw "no error";
  };
  const schema = yup.string().test("read", understood(read));
  expect(["", "good", undefined].map((value) => fault(schema, value))).toEqual(["", "", ""]);
  expect(fault(schema, "bad")).toBe("“bad” is not understood.");
  expect(fault(schema, "worse")).toBe("no error");
});
