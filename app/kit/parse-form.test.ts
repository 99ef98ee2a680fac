import * as yup from "yup";

import { oneOrMany, parseWithYup, ticked } from "./parse-form";

const schema = yup.object({
  on: yup.string().matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day."),
  name: yup.string().required("Give a name."),
  rows: yup.array(yup.object({ every: yup.number().typeError("Type a number.") })),
});
const form = (fields: Record<string, string>): FormData => {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.set(name, value);
  return data;
};

it("takes empty optional fields for not given, in lists too", () => {
  const submission = parseWithYup(form({ on: "", name: "x", "rows[0].every": "" }), { schema });
  expect(submission.status).toBe("success");
  expect(submission.status === "success" && submission.value.on).toBeUndefined();
});
it("still asks for what is required, and refuses what is wrong", () => {
  expect(parseWithYup(form({ on: "tomorrow", name: "" }), { schema })).toHaveProperty("error", {
    on: ["Choose a day."],
    name: ["Give a name."],
  });
});
it("reads a tick box", () => {
  const box = yup.object({ box: ticked() });
  expect(parseWithYup(form({ box: "on" }), { schema: box })).toHaveProperty("value", { box: true });
  expect(parseWithYup(form({}), { schema: box })).toHaveProperty("value", { box: false });
});
it("reads one ticked box of several as a list", () => {
  const boxes = yup.object({ ids: yup.array(yup.string().required()).transform(oneOrMany).default([]) });
  expect(parseWithYup(form({ ids: "a" }), { schema: boxes })).toHaveProperty("value", { ids: ["a"] });
  expect(parseWithYup(form({}), { schema: boxes })).toHaveProperty("value", { ids: [] });
});
