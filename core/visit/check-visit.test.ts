import { checkVisit, type VisitProblem, type VisitSchedule } from "./index";

/** One technician, a soak in the only sink, a machine with hours of its own. */
const problem: VisitProblem = {
  technicians: 1,
  resources: [{ id: "sink", capacity: 1 }],
  jobs: [
    {
      id: "a",
      release: 2,
      deadline: 60,
      phases: [
        { kind: "hands", minutes: 3 },
        { kind: "wait", minutes: 10, maxMinutes: 15, uses: ["sink"] },
        { kind: "hands", minutes: 4 },
        { kind: "wait", minutes: 20 },
      ],
    },
    {
      id: "b",
      windows: [[4, 40]],
      phases: [
        { kind: "hands", minutes: 5 },
        { kind: "hands", minutes: 2, uses: ["sink"] },
      ],
    },
  ],
};
const good: VisitSchedule = {
  status: "optimal",
  makespan: 21,
  lowerBound: 21,
  phases: [
    { job: "a", index: 0, start: 2, end: 5, technician: 0 },
    { job: "a", index: 1, start: 5, end: 15 },
    { job: "a", index: 2, start: 15, end: 19, technician: 0 },
    { job: "a", index: 3, start: 19, end: 39 },
    { job: "b", index: 0, start: 5, end: 10, technician: 0 },
    { job: "b", index: 1, start: 19, end: 21, technician: 0 },
  ],
};
type Packed = VisitSchedule["phases"][number];
type Change = { [Key in keyof Packed]?: Packed[Key] | undefined };
const changed = (...changes: [number, Change][]): VisitSchedule => ({
  ...good,
  phases: good.phases.map(
    (phase, i) =>
      Object.assign(
        {},
        phase,
        ...changes.filter(([at]) => at === i).map(([, change]) => change),
      ) as VisitSchedule["phases"][number],
  ),
});

it("finds nothing wrong with a schedule that keeps every rule", () => {
  expect(checkVisit(problem, good)).toEqual([]);
});

it.each<[string, VisitSchedule, RegExp]>([
  ["a missing phase", { ...good, phases: good.phases.slice(1) }, /a, phase 0, is missing/],
  ["a phase twice", { ...good, phases: [...good.phases, good.phases[0]!] }, /there twice/],
  [
    "a phase of no job",
    { ...good, phases: [...good.phases, { job: "c", index: 0, start: 0, end: 1 }] },
    /not part of the visit/,
  ],
  ["half a minute", changed([4, { start: 5.5, end: 10.5 }]), /whole minutes/],
  ["work cut short", changed([4, { end: 9 }]), /takes 4 minutes instead of 5/],
  ["a start before the release", changed([0, { start: 1, end: 4 }], [1, { start: 4 }]), /before 2/],
  [
    "a soak too short",
    changed([1, { end: 14 }], [2, { start: 14, end: 18 }], [3, { start: 18, end: 38 }]),
    /less than 10/,
  ],
  [
    "a soak too long",
    changed([1, { end: 21 }], [2, { start: 21, end: 25 }], [3, { start: 25, end: 45 }]),
    /more than 15/,
  ],
  [
    "a gap after a wait",
    changed([1, { end: 16 }], [2, { start: 17, end: 21 }], [3, { start: 21, end: 41 }]),
    /ends at 16/,
  ],
  ["a wait that starts late", changed([1, { start: 6 }]), /ends at 5/],
  ["a last wait of another length", changed([3, { end: 30 }]), /lasts 11 minutes instead of 20/],
  [
    "a deadline missed",
    changed([1, { end: 20 }], [2, { start: 20, end: 24 }], [3, { start: 41, end: 61 }]),
    /deadline 60/,
  ],
  ["work outside the window", changed([4, { start: 0, end: 2 }]), /none of its windows/],
  ["two things at once", changed([4, { start: 3, end: 8 }]), /Technician 0 has a, phase 0, and b, phase 0/],
  ["nobody to do it", changed([4, { technician: undefined }]), /no technician/],
  ["a technician for a wait", changed([1, { technician: 0 }]), /takes no technician/],
  ["a full sink", changed([5, { start: 12, end: 14 }]), /take 2 of sink/],
  ["another makespan", { ...good, makespan: 20 }, /ends at 21, not at 20/],
  ["a bound above the length", { ...good, lowerBound: 22 }, /bound 22/],
  ["an optimum that is not proven", { ...good, lowerBound: 20 }, /optimal with a bound of 20/],
  ["phases of an impossible visit", { ...good, status: "infeasible" }, /no phases/],
])("finds %s", (_name, schedule, fault) => {
  expect(checkVisit(problem, schedule).join(" ")).toMatch(fault);
});

it("finds work outside a technician's hours, and begun work that is moved", () => {
  expect(checkVisit({ ...problem, technicianHours: [[[0, 18]]] }, good).join(" ")).toMatch(/outside the hours/);
  expect(checkVisit({ ...problem, fixed: [{ job: "b", index: 0, start: 6 }] }, good).join(" ")).toMatch(/began at 6/);
});
