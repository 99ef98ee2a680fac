import { foldRun, type Procedure, type RunEventBody, sheetSteps } from "@core";

import { entriesOf } from "~/testing/entries";
import { stepMarkup } from "~/testing/step-markup";

import { base2 } from "../../core/sheet/testing/lint-cases-2";
import type { SheetFacts } from "./sheet-facts";
import { outcomeOf } from "./step-outcome";

const PROCEDURE: Procedure = base2([
  {
    id: "proof",
    kind: "prove",
    title: "Each stop",
    expect: "The belt stands at once",
    functions: [
      { id: "left", name: "Stop button", place: "left end" },
      { id: "right", name: "Stop button", place: "right end" },
    ],
  },
]);

function shownWith(facts: Partial<SheetFacts>, ...bodies: RunEventBody[]): { html: string; outcome: string } {
  const state = foldRun(PROCEDURE, entriesOf(bodies));
  const [one] = sheetSteps(PROCEDURE, state, { options: [] });
  if (!one) throw new Error("no proof");
  return { html: stepMarkup(PROCEDURE, state, one, facts), outcome: outcomeOf(one) };
}
const shown = (...bodies: RunEventBody[]) => shownWith({}, ...bodies);

it("a proof of several functions asks for each where it is, and says what became of those that were tried", () => {
  const { html } = shown();
  expect(html).toMatch(/Stop button.*left end.*Stop button.*right end/);
  expect(html).toContain("Log what was tried");
  const tried = shown({
    type: "step-done",
    step: "proof",
    round: 1,
    answer: "ok",
    results: [
      { function: "left", ok: true },
      { function: "right", ok: false, note: "stands after a metre" },
    ],
  });
  expect(tried.html).toContain("was as expected");
  expect(tried.html).toContain("! was not: stands after a metre");
  expect(tried.outcome).toBe("1 of 2 as expected; not yet: Stop button");
});

it("shows how each function came out the last times, under that function", () => {
  const { html } = shownWith({
    pastTrials: {
      right: [
        { on: "2026-06-03", ok: true, note: null },
        { on: "2026-05-27", ok: false, note: "stands after a metre" },
      ],
    },
  });
  const [left = "", right = ""] = html.split("right end");
  expect(left).not.toMatch(/Jun|May/);
  expect(right).toMatch(/Wed 3 Jun.*as expected.*Wed 27 May.*! not: stands after a metre/s);
});
