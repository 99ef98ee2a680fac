import type { Procedure, Step } from "./procedure";
import type { RunEventBody } from "./run-event";
import { base2, proof } from "./testing/lint-cases-2";
import { TestLog } from "./testing/runs";
import { doing } from "./testing/sample";
import { unsafeWork } from "./unsafe-work";

const STEPS: Step[] = [
  doing("descale", { uses: [{ item: "acid", qty: 1 }] }),
  doing("rinse", { rinses: true }),
  doing("bleach", { uses: [{ item: "bleach", qty: 1 }] }),
  proof,
];
const PROCEDURE: Procedure = base2(STEPS, {
  materials: [
    { item: "acid", name: "Descaler", qty: 1, unit: "mL", chemical: "acid" },
    { item: "bleach", name: "Bleach", qty: 1, unit: "mL", chemical: "hypochlorite" },
  ],
});
const done = (step: string): RunEventBody => ({ type: "step-done", step, round: 1 });
const skipped: RunEventBody = { type: "step-skipped", step: "rinse", round: 1, reason: "hurry" };

function unsafe(procedure: Procedure, ...bodies: RunEventBody[]): string[] {
  const log = new TestLog();
  for (const body of bodies) log.add(body);
  return unsafeWork(procedure, log.events, { options: [] }).map((one) => one.step);
}

describe("work that must not be done, and was logged", () => {
  it("is chlorine on acid that was not rinsed away", () => {
    expect(unsafe(PROCEDURE, done("descale"), skipped, done("bleach"))).toEqual(["bleach"]);
    expect(unsafe(PROCEDURE, done("descale"), done("rinse"), done("bleach"))).toEqual([]);
  });

  it("is judged by what was there then, not by what was rinsed later", () => {
    expect(unsafe(PROCEDURE, done("descale"), done("bleach"), done("rinse"))).toEqual(["bleach"]);
    expect(unsafe(PROCEDURE, done("bleach"), done("descale"))).toEqual(["descale"]);
  });

  it("is nothing that was taken back", () => {
    const log = new TestLog();
    const first = log.add(done("descale"));
    log.add({ type: "undone", ref: first.id });
    log.add(done("bleach"));
    expect(unsafeWork(PROCEDURE, log.events, { options: [] })).toEqual([]);
  });

  it("is an agent on a surface that it harms, said in words", () => {
    const onStone = {
      ...PROCEDURE,
      steps: STEPS.map((one) => (one.id === "descale" ? { ...one, surfaces: ["stone" as const] } : one)),
    };
    const log = new TestLog();
    log.add(done("descale"));
    expect(unsafeWork(onStone, log.events, { options: [] })).toMatchObject([
      { step: "descale", because: '"descale" used Descaler on stone. Etches it.' },
    ]);
  });
});
