import { sent } from "~/testing/sent";

import { announceSchema, answerSchema, customerAnswerSchema } from "./before-schemas";

const ID = "01a22900-0000-7000-8000-000000000001";

it("an announcement goes to an address, with what is asked for as a list", () => {
  const right = { site: ID, to: " desk@clinic.example ", ask: "machine cool" };
  expect(sent(announceSchema, right).value).toEqual({ site: ID, to: "desk@clinic.example", ask: ["machine cool"] });
  expect(sent(announceSchema, { ...right, to: "desk" }).faults).toHaveProperty("to");
  expect(sent(announceSchema, { ...right, to: "" }).faults).toHaveProperty("to");
  expect(sent(announceSchema, { ...right, site: "x" }).faults).toHaveProperty("site");
});

it("an answer is yes or no, to a request", () => {
  expect(sent(answerSchema, { request: ID, answer: "no" }).value).toEqual({ request: ID, answer: "no" });
  expect(sent(answerSchema, { request: ID, answer: "perhaps" }).faults).toHaveProperty("answer");
  expect(sent(answerSchema, { answer: "yes" }).faults).toHaveProperty("request");
});

it("a customer gives a name and says what they know; the rest may wait", () => {
  const right = { name: "Ana", "answers[0].id": ID, "answers[0].said": "yes", "answers[1].id": ID };
  expect(sent(customerAnswerSchema, right).value).toMatchObject({
    name: "Ana",
    answers: [{ id: ID, said: "yes" }, { id: ID }],
  });
  expect(sent(customerAnswerSchema, { ...right, name: "" }).faults).toHaveProperty("name");
});
