import type { Procedure, Step } from "../sheet/procedure";
import { allShipped, shipped, whole } from "../sheet/testing/shipped";
import { checkVisit, packVisit, procedurePhases, visitJobs } from "./index";

const everyOne = allShipped().map((one, _, all) => whole(one, all));

const base = { ...shipped("own-duty"), options: [{ id: "fan", name: "Fan" }] };
const procedure = (steps: Partial<Step>[], handsOn: number): Procedure => ({
  ...base,
  minutes: { handsOn, waiting: 0 },
  steps: steps.map((step, i) => ({ id: `s${i}`, title: `Step ${i}`, kind: "do", ...step }) as Step),
});
const bare = { options: [] };

it("shares out the hands-on minutes by the steps' own and keeps soaks apart", () => {
  const { phases } = procedurePhases(
    procedure([{ minutes: 2 }, { kind: "wait", minMinutes: 15, maxMinutes: 20, minutes: 0 }, { minutes: 6 }], 16),
    bare,
  );
  expect(phases).toEqual([
    { kind: "hands", minutes: 4 },
    { kind: "wait", minutes: 15, maxMinutes: 20 },
    { kind: "hands", minutes: 12 },
  ]);
});

it("puts what may be done meanwhile into the soak, and takes it off both its times", () => {
  const steps: Partial<Step>[] = [
    { minutes: 3 },
    { kind: "wait", minMinutes: 20, maxMinutes: 30, minutes: 0, meanwhile: ["s2", "s3"], needs: ["sink"] },
    { minutes: 8 },
    { minutes: 4 },
    { minutes: 5 },
  ];
  expect(procedurePhases(procedure(steps, 20), bare).phases).toEqual([
    { kind: "hands", minutes: 15, uses: ["sink"] },
    { kind: "wait", minutes: 8, maxMinutes: 18, uses: ["sink"] },
    { kind: "hands", minutes: 5 },
  ]);
});

it("never puts more into a soak than its longest time holds", () => {
  const steps: Partial<Step>[] = [
    { minutes: 1 },
    { kind: "wait", minMinutes: 5, maxMinutes: 10, minutes: 0, meanwhile: ["s2", "s3"] },
    { minutes: 7 },
    { minutes: 7 },
  ];
  expect(procedurePhases(procedure(steps, 15), bare).phases).toEqual([
    { kind: "hands", minutes: 8 },
    { kind: "wait", minutes: 0, maxMinutes: 3 },
    { kind: "hands", minutes: 7 },
  ]);
});

it("leaves out what is not fitted, and names what only comes up when something is found", () => {
  const steps: Partial<Step>[] = [
    { kind: "inspect", minutes: 5 },
    { minutes: 30, when: [{ step: "s0", is: "not-ok" }] },
    { minutes: 5, when: [{ option: "fan", fitted: true }] },
  ];
  const without = procedurePhases(procedure(steps, 10), bare);
  expect(without).toMatchObject({ handsOn: 10, likely: [{ step: "s1", minutes: 30 }] });
  expect(without.steps.flat()).toEqual(["s0"]);
  expect(procedurePhases(procedure(steps, 10), { options: ["fan"] }).steps.flat()).toEqual(["s0", "s2"]);
});

it("waits for a cool-down once, and stands by where a wait is attended", () => {
  const cool: Partial<Step> = { kind: "safety", checks: ["cold"], coolDown: { minutes: 30 }, minutes: 1 };
  const steps: Partial<Step>[] = [
    { minutes: 2 },
    cool,
    { minutes: 3 },
    cool,
    { kind: "wait", attended: true, minMinutes: 3 },
  ];
  expect(procedurePhases(procedure(steps, 10), bare).phases).toEqual([
    { kind: "hands", minutes: 3 },
    { kind: "wait", minutes: 30 },
    { kind: "hands", minutes: 7 },
  ]);
});

it.each(everyOne.map((one) => [one.id, one] as const))("%s packs by itself, with its hands-on minutes", (_id, one) => {
  for (const options of [[], one.options.map((option) => option.id)]) {
    const planned = procedurePhases(one, { options });
    const jobs = visitJobs({ id: one.id }, planned);
    const phases = jobs.flatMap((job) => job.phases);
    expect(Math.abs(planned.handsOn - one.minutes.handsOn)).toBeLessThanOrEqual(Math.max(2, phases.length));
    const resources = [...new Set(phases.flatMap((phase) => phase.uses ?? []))].map((id) => ({ id, capacity: 1 }));
    const problem = { technicians: 1, jobs, resources };
    const schedule = packVisit(problem, { nodeLimit: 2000 });
    expect(schedule).toMatchObject({ status: "optimal" });
    expect(checkVisit(problem, schedule)).toEqual([]);
  }
});
