import { must } from "../must";
import { allShipped, whole } from "../sheet/testing/shipped";
import { workedSheet } from "../sheet/testing/worked";
import { judgeSheet } from "./judge-sheet";
import { shownAt } from "./sheet-machine";

const written = allShipped();
const sheets = written.map((one) => whole(one, written)).filter((one) => one.steps.length > 0);
const SEEDS = process.env.HOUND_SOAK ? 40 : 1;

describe.each(sheets.map((one) => [one.id, one] as const))("practised: %s", (_id, procedure) => {
  const options = procedure.options.map((one) => one.id);

  it("who reads what the machine shows and leaves nothing out has nothing unsafe, misread or forgotten", () => {
    for (let seed = 1; seed <= SEEDS; seed++) {
      const machine = { family: procedure.family, seed };
      const events = workedSheet(procedure, {
        options,
        usesLeft: 1,
        script: { shows: (step, at) => shownAt(machine, step, at) },
      });
      const { isSolved, unsafe, forgotten, bestMinutes } = judgeSheet({ procedure, seed, options }, events);
      expect({ seed, isSolved, unsafe, forgotten }).toEqual({ seed, isSolved: true, unsafe: [], forgotten: [] });
      expect(bestMinutes).toBeGreaterThan(0);
    }
  });
});

describe("a sheet practised badly", () => {
  const procedure = must(sheets.find((one) => one.steps.some((step) => step.kind === "wait" && step.maxMinutes)));
  const options = procedure.options.map((one) => one.id);
  const soak = must(procedure.steps.find((step) => step.kind === "wait" && step.maxMinutes !== undefined));
  const worked = (waited: Record<string, number>, seed = 1) =>
    judgeSheet(
      { procedure, seed, options },
      workedSheet(procedure, {
        options,
        usesLeft: 1,
        script: { shows: (step, at) => shownAt({ family: procedure.family, seed }, step, at), waited },
      }),
    );

  it("says a soak that was too long among what harms, one that was too short among what was missed", () => {
    expect(worked({ [soak.id]: 500 }).unsafe).toEqual([expect.stringContaining(`“${soak.title}” lasted 500 min`)]);
    expect(worked({ [soak.id]: 0.5 }).forgotten).toEqual([
      expect.stringContaining(`“${soak.title}” ended after 0.5 of`),
    ]);
    expect(worked({ [soak.id]: 0.5 }).isPassed).toBe(false);
  });

  it("finds what was not looked at: the demo's technician finds everything good", () => {
    const machines = Array.from({ length: 12 }, (_, seed) =>
      judgeSheet({ procedure, seed, options }, workedSheet(procedure, { options, usesLeft: 1, script: {} })),
    );
    expect(machines.some((one) => one.forgotten.length > 0)).toBe(true);
    expect(machines.every((one) => !one.forgotten.some((text) => text.startsWith("Not done")))).toBe(true);
  });
});
