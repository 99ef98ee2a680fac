import { procedureNeeds } from "../stock/procedure-needs";
import { checkProcedure } from "./check-procedure";
import { foldRun } from "./fold-run";
import { followUps } from "./follow-ups";
import { missingSteps } from "./next-steps";
import { TestLog } from "./testing/runs";
import { BLADES, doing, sample } from "./testing/sample";

/** Of many of a kind, those that were found worn are renewed, and no others. */
const renew = { kind: "replace", item: "cup", slots: ["c-1", "c-2", "c-3"], some: true } as const;
const cups = { item: "cup", name: "Cup", slots: renew.slots.map((id) => ({ id, name: id })) };
const procedure = sample([doing("renew", renew)], { formatVersion: 2, parts: [cups] });
const bare = { options: [] };

const logged = (...work: ((log: TestLog) => unknown)[]) => {
  const log = new TestLog();
  log.safe("gate");
  for (const one of work) one(log);
  return foldRun(procedure, log.events);
};
const isOpen = (state: ReturnType<typeof logged>): boolean =>
  missingSteps(procedure, state, bare).some((one) => one.step === "renew");

it("is done when somebody says that those were all, and not with the first", () => {
  const first = logged((log) => log.fit("renew", "cup", "c-2"));
  expect(isOpen(first)).toBe(true);
  const said = logged(
    (log) => log.fit("renew", "cup", "c-2"),
    (log) => log.done("renew"),
  );
  expect(isOpen(said)).toBe(false);
  expect(said.parts.map((one) => one.slot)).toEqual(["c-2"]);
});

it("is done by itself when each has a new one", () =>
  expect(isOpen(logged(...renew.slots.map((slot) => (log: TestLog) => log.fit("renew", "cup", slot))))).toBe(false));

it("is not done by a word alone", () => expect(isOpen(logged((log) => log.done("renew")))).toBe(true));

it("left out is one item, not one a place: nobody else knows which were worn", () => {
  const state = logged((log) => log.add({ type: "step-skipped", step: "renew", round: 1, reason: "None here" }));
  expect(followUps(procedure, state, bare)).toEqual([
    { kind: "incomplete", step: "renew", severity: "minor", because: "renew: left out: None here" },
  ]);
});

it("asks the stores for one piece, where a step that renews all asks for as many as there are places", () => {
  expect(procedureNeeds(procedure, bare).sure).toEqual([{ item: "cup", qty: 1, kind: "part" }]);
  const { some: _, ...all } = renew;
  expect(procedureNeeds(sample([doing("renew", all)], { parts: [cups] }), bare).sure).toEqual([
    { item: "cup", qty: 3, kind: "part" },
  ]);
  const asked = [
    doing("look", { kind: "inspect", asItShouldBe: "Whole", ifNot: "New" }),
    doing("renew", { ...renew, when: [{ step: "look", is: "not-ok" }] }),
  ];
  expect(procedureNeeds(sample(asked, { parts: [cups] }), bare).possible).toEqual([
    { item: "cup", qty: 1, kind: "part" },
  ]);
});

it("is no way to renew one of a pair", () => {
  const pair = sample([doing("renew", { kind: "replace", item: "blade", slots: ["l", "r"], some: true })], {
    formatVersion: 2,
    parts: [BLADES],
  });
  expect(checkProcedure(pair).map((fault) => fault.path)).toEqual(["steps[1].some"]);
});
