import * as yup from "yup";

import { answerTo } from "./answer-to";
import {
  clock,
  cursor,
  day,
  hiddenId,
  id,
  key,
  listOf,
  number,
  password,
  quantity,
  slug,
  text,
  ticked,
  whole,
} from "./fields";
import { parseWithYup } from "./parse-form";

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
