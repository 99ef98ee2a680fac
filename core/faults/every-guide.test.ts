import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { checkProcedure, foldRun, lintProcedure, placeGates, type RunEvent, sheetSteps } from "../sheet/index";
import type { FaultGuide } from "./guide";
import { CAUSE_STEP, guideProcedure, SYMPTOM_STEP } from "./guide-procedure";
import { GuideSearch, isMeant } from "./guide-search";
import { lintGuide } from "./lint-guide";
import type { SearchGate } from "./way-into";

const FOLDER = join(__dirname, "../../fault-guides");
const guides = readdirSync(FOLDER)
  .filter((name) => name.endsWith(".json"))
  .map((name) => JSON.parse(readFileSync(join(FOLDER, name), "utf8")) as FaultGuide);

/** What is in force behind a gate, by what the states say of each other. */
function through({ states }: FaultGuide, inside: ReadonlySet<string>, { state, way }: SearchGate): Set<string> {
  const isEnded = (other: string): boolean =>
    (state.excludes ?? []).includes(other) ||
    states.some(({ id, lostBy = [] }) => id === other && lostBy.includes(state.id));
  if (way === "out") return new Set([...inside].filter((one) => one !== state.id));
  return new Set([...[...inside].filter((one) => !isEnded(one)), state.id]);
}

it("there is one of every family that ships procedures", () => {
  const families = readdirSync(join(__dirname, "../../procedures"))
    .filter((name) => name.endsWith(".json"))
    .map((name) => (JSON.parse(readFileSync(join(__dirname, "../../procedures", name), "utf8")) as FaultGuide).family)
    .filter((family) => family !== "any");
  expect(guides.map((one) => one.family).sort()).toEqual([...new Set(families)].sort());
});

describe.each(guides.map((guide) => [guide.family, guide] as const))("%s", (_family, guide) => {
  const procedure = placeGates(guideProcedure(guide));
  const search = must(procedure.steps.find((step) => step.kind === "find"));

  it("holds together", () => expect(lintGuide(guide)).toEqual([]));
  it("makes a sheet that holds together and is good practice", () => {
    expect(checkProcedure(procedure)).toEqual([]);
    expect(lintProcedure(guideProcedure(guide)).filter((one) => one.severity === "error")).toEqual([]);
  });

  /** Every cause of every symptom, on a machine that has what both are meant for. */
  const faults = guide.symptoms.flatMap(({ id, causes, on = [] }) =>
    causes.map(({ cause }) => {
      const known = must(guide.causes.find((one) => one.id === cause));
      const options = [...on, ...(known.on ?? [])].flatMap((one) => (one.fitted ? [one.option] : []));
      return { symptom: id, cause, options: [...new Set(options)] };
    }),
  );

  it.each(faults)(
    "$symptom: $cause is found by going down the guide, and has a way out",
    ({ symptom, cause, options }) => {
      const random = uniform(xoroshiro128plus(guide.family.length + cause.length));
      const checks: { check: string; result: "clear" }[] = [];
      const shares = guide.checks.flatMap(({ finds, on }) =>
        isMeant(on, options) ? finds.filter((one) => one.cause === cause).map((one) => one.share) : [],
      );
      const surest = Math.max(...shares);
      let inside = new Set<string>();
      let found: string | null = null;
      for (let n = 0; n <= guide.checks.length && found === null; n++) {
        const next = new GuideSearch({ ...{ step: search, states: guide.states, symptom, options, inside, checks } })
          .open[0];
        expect(next?.chance ?? 0).toBeGreaterThan(0);
        const { check, gates } = must(next);
        for (const gate of gates) inside = through(guide, inside, gate);
        expect([...(check.state ?? [])].every((one) => inside.has(one))).toBe(true);
        const shows = check.finds.find((one) => one.cause === cause);
        // A check that could show it, and this time does not, is done: another has to. The surest does.
        if (shows && (random() < shows.share || shows.share === surest)) found = check.id;
        else checks.push({ check: check.id, result: "clear" });
      }
      expect(found).not.toBeNull();

      const at = (second: number): string => new Date(Date.UTC(2026, 0, 5, 8, 0, second)).toISOString();
      const base = { runId: "r", by: "p", device: "d", round: 1 };
      const events = [
        { ...base, id: "1", at: at(1), type: "step-done", step: SYMPTOM_STEP, answer: symptom },
        { ...base, id: "2", at: at(2), type: "checked", step: CAUSE_STEP, check: must(found), result: "found", cause },
      ] as RunEvent[];
      const state = foldRun(procedure, events);
      expect(state.unknown).toEqual([]);
      const steps = sheetSteps(procedure, state, { options });
      expect(must(steps.find((one) => one.step === CAUSE_STEP)).state?.answer).toBe(cause);
      // Something is done about it, or it is handed over: beyond the gates, the search and the proof.
      const remedy = steps.filter((one) => one.step.startsWith(`${cause}-`));
      expect(remedy.length).toBeGreaterThan(0);
      expect(steps[steps.length - 1]?.step).not.toBe(CAUSE_STEP);
      expect(isMeant(must(guide.causes.find((one) => one.id === cause)).on, options)).toBe(true);
    },
  );
});
