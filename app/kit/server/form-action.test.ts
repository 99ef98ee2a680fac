import { redirect, RouterContextProvider } from "react-router";
import { object } from "yup";

import type { Actor } from "~/kit/actor";
import { hiddenId, number, password, text, whole } from "~/kit/forms/fields";
import { Refusal } from "~/kit/refusal";

import { form, formAction, leadForm, NOTHING } from "./form-action.server";
import { actorContext } from "./request-context";

const kim: Actor = { id: "kim", name: "Kim", role: "technician", authorisations: [] };
const ada: Actor = { ...kim, id: "ada", name: "Ada", role: "lead" };

const meterSchema = object({
  value: number("Type the figure the meter shows.").required("Type the figure.").min(0, "Zero or more."),
  note: text(20),
  lines: text(20),
});

function args(body: string | FormData, who: Actor | null = kim) {
  const context = new RouterContextProvider();
  context.set(actorContext, who);
  const request = new Request("http://hound.test/machines/1", {
    method: "POST",
    body,
    ...(typeof body === "string" ? { headers: { "Content-Type": "application/x-www-form-urlencoded" } } : {}),
  });
  return { request, context };
}

type Forms = Parameters<typeof formAction>[1];

async function answered(body: string | FormData, forms: Forms, who: Actor | null = kim) {
  const answer = await formAction(args(body, who), forms);
  if (answer instanceof Response) throw new Error(`led to ${answer.headers.get("Location")}`);
  return {
    ...answer.data,
    status: answer.init?.status ?? 200,
    headers: new Headers(answer.init?.headers),
  };
}

it("hands the work what was typed as its schema reads it, who sent it, and when", async () => {
  const got: unknown[] = [];
  const before = Date.now();
  const answer = await answered("intent=meter&value=+12%2C5+&note=+by+the+door++&strange=1", {
    other: form(NOTHING, () => Promise.reject(new Error("not this one"))),
    meter: form(meterSchema, async (value, who, now) => {
      got.push(value, who.id, now.getTime() >= before && now.getTime() <= Date.now());
      return Promise.resolve("Logged.");
    }),
  });
  expect(got).toEqual([{ value: 12.5, note: "by the door" }, "kim", true]);
  expect(answer).toMatchObject({ form: "meter", said: "Logged.", errors: {}, message: null, values: {}, status: 200 });
});

it("takes a form without a name for the page's first", async () => {
  const answer = await answered("value=1", {
    meter: form(meterSchema, async () => Promise.resolve("Logged.")),
    other: form(NOTHING, async () => Promise.resolve("Not this.")),
  });
  expect(answer).toMatchObject({ form: "meter", said: "Logged." });
});

it.each(["toString", "__proto__", "gone", ""])("knows no form that is named %j", async (intent) => {
  const answer = await answered(`intent=${intent}&value=1`, {
    meter: form(meterSchema, async () => Promise.resolve("Logged.")),
  });
  expect(answer).toMatchObject({ status: 422, said: null, message: expect.stringContaining("not known") as string });
});

it("says every field's first fault beside it, and gives back what was typed", async () => {
  const answer = await answered("intent=meter&value=-3&note=a+note+that+is+longer+than+may+be", {
    meter: form(meterSchema, async () => Promise.resolve("Logged.")),
  });
  expect(answer).toMatchObject({
    status: 422,
    form: "meter",
    errors: { value: ["Zero or more."], note: ["Keep it under 20 characters."] },
    message: null,
    values: { value: "-3", note: "a note that is longer than may be" },
  });
});

it("says above the form what is wrong with a field that no one sees, and never sends a password back", async () => {
  const schema = object({ machineId: hiddenId(), name: text(9), secret: password("Type it.") });
  const answer = await answered("machineId=1&name=Kim&secret=harbour", {
    first: form(schema, async () => Promise.resolve("Done.")),
  });
  expect(answer.errors).toEqual({});
  expect(answer.message).toMatch(/Load the page again/);
  expect(answer.values).toEqual({ machineId: "1", name: "Kim" });
});

it("puts a service's no beside the field that its code names, into rows as well, else above the form", async () => {
  const refusing = (code: string) => ({
    meter: form(meterSchema, async () => Promise.reject(new Refusal(409, code, "No."))),
  });
  expect(await answered("value=7", refusing("value"))).toMatchObject({
    status: 409,
    errors: { value: ["No."] },
    message: null,
    values: { value: "7" },
  });
  expect(await answered("value=7", refusing("lines[2].lot"))).toMatchObject({ errors: { "lines[2].lot": ["No."] } });
  expect(await answered("value=7", refusing("not-a-field"))).toMatchObject({ errors: {}, message: "No." });
  expect(await answered("value=7", refusing("constructor"))).toMatchObject({ errors: {}, message: "No." });
});

it("tells what the database refuses in words, and lets a fault be a fault", async () => {
  const failing = (error: unknown) => ({
    meter: form(meterSchema, async () => Promise.reject(error as Error)),
  });
  const twice = Object.assign(new Error("Duplicate entry 'x' for key 'machines.tag'"), { parent: { errno: 1062 } });
  const answer = await answered("value=7", failing(twice));
  expect(answer).toMatchObject({ status: 409, values: { value: "7" } });
  expect(answer.message).not.toMatch(/machines\.tag/);
  await expect(formAction(args("value=7"), failing(new Error("boom")))).rejects.toThrow("boom");
  const gone = Object.assign(new Error("connect ECONNREFUSED"), { parent: { errno: -111 } });
  await expect(formAction(args("value=7"), failing(gone))).rejects.toThrow("ECONNREFUSED");
});

it("keeps a lead's form from everybody else, before anything is done or judged", async () => {
  let done = 0;
  const forms = {
    change: leadForm("Only a lead changes this.", object({ days: whole(1, 9).required() }), async () => {
      done += 1;
      return Promise.resolve("Changed.");
    }),
  };
  expect(await answered("days=99", forms, kim)).toMatchObject({ status: 403, message: "Only a lead changes this." });
  expect(await answered("days=3", forms, null)).toMatchObject({ status: 403 });
  expect(done).toBe(0);
  expect(await answered("days=3", forms, ada)).toMatchObject({ status: 200, said: "Changed." });
  expect(done).toBe(1);
});

it("asks the page who may send any of its forms", async () => {
  const forms = { meter: form(meterSchema, async () => Promise.resolve("Logged.")) };
  const allow = (who: Actor): void => {
    if (who.id !== "ada") throw new Refusal(403, "not-yours", "This is not yours.");
  };
  const refused = await formAction(args("value=1"), forms, allow);
  expect(refused).toMatchObject({ data: { message: "This is not yours.", values: { value: "1" } } });
  expect(await formAction(args("value=1", ada), forms, allow)).toMatchObject({ data: { said: "Logged." } });
});

it("leads to another page, or shows what came out with what was asked", async () => {
  const forms = {
    go: form(NOTHING, async () => Promise.resolve(redirect("/machines/2"))),
    ask: form(meterSchema, async ({ value }) => Promise.resolve({ result: value * 2, said: "Worked out." })),
  };
  const led = await formAction(args("intent=go"), forms);
  expect(led).toBeInstanceOf(Response);
  expect((led as Response).headers.get("Location")).toBe("/machines/2");
  expect(await answered("intent=ask&value=4", forms)).toMatchObject({
    result: 8,
    said: "Worked out.",
    values: { value: "4" },
  });
});

it("answers what is no form, too large, or sent twice with words, not with an error page", async () => {
  const forms = { meter: form(meterSchema, async () => Promise.resolve("Logged.")) };
  const context = new RouterContextProvider();
  context.set(actorContext, kim);
  const json = new Request("http://hound.test/", { method: "POST", body: "{}" });
  expect(await formAction({ request: json, context }, forms)).toMatchObject({ init: { status: 415 } });
  const large = await answered(`value=${"1".repeat(300 * 1024)}`, forms);
  expect(large).toMatchObject({ status: 413, form: "meter" });
  // What is left of its body is not read, so the next request must not come over the same connection.
  expect(large.headers.get("Connection")).toBe("close");
  expect(await answered("value=1&value=2", forms)).toMatchObject({ status: 400, said: null });
});

it("opens the limit for files where a form of the page takes one, for that file's size", async () => {
  const withFile = object({ file: text(1).meta({ maxBytes: 600 * 1024 }), note: text(700_000) });
  const body = new FormData();
  body.set("note", "x".repeat(500 * 1024));
  expect(await answered(body, { only: form(withFile, async () => Promise.resolve("Taken.")) })).toMatchObject({
    said: "Taken.",
  });
  const without = { only: form(object({ note: text(700_000) }), async () => Promise.resolve("Taken.")) };
  const again = new FormData();
  again.set("note", "x".repeat(500 * 1024));
  expect(await answered(again, without)).toMatchObject({ status: 413 });
});
