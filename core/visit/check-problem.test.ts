import { MOST_DISTINCT_TECHNICIANS, readVisitProblem } from "./check-problem";
import type { VisitJob, VisitProblem } from "./types";

const hands = (minutes: number, ...uses: string[]) => ({
  kind: "hands" as const,
  minutes,
  ...(uses.length > 0 && { uses }),
});
const wait = (minutes: number, maxMinutes?: number) => ({
  kind: "wait" as const,
  minutes,
  ...(maxMinutes !== undefined && { maxMinutes }),
});
const job = (id: string, phases: VisitJob["phases"], more: Partial<VisitJob> = {}): VisitJob => ({
  id,
  phases,
  ...more,
});
const visit = (more: object = {}): VisitProblem => ({
  technicians: 1,
  jobs: [job("a", [hands(5), wait(9, 20), hands(3)])],
  ...more,
});
const told = (problem: VisitProblem): string => {
  try {
    readVisitProblem(problem);
    return "";
  } catch (error) {
    const { code, path, message } = error as { code: string; path: string; message: string };
    return `${code} ${path}: ${message}`;
  }
};

it.each<[object, string]>([
  [{ technicians: 0 }, "bad-number technicians: A visit needs at least one technician, not 0."],
  [{ technicians: 1.5 }, "bad-number technicians: A visit needs at least one technician, not 1.5."],
  [
    {
      resources: [
        { id: "sink", capacity: 1 },
        { id: "sink", capacity: 2 },
      ],
    },
    "bad-value resources[1].id: Resource sink is listed twice.",
  ],
  [
    { resources: [{ id: "sink", capacity: 0.5 }] },
    "bad-number resources[0].capacity: resources[0].capacity is in whole minutes or pieces, not 0.5.",
  ],
  [{ jobs: [job("a", []), job("a", [])] }, "bad-value jobs[1].id: Job a is listed twice."],
  [
    { jobs: [job("a", [hands(20_000_000)])] },
    "out-of-range jobs[0].phases[0].minutes: jobs[0].phases[0].minutes is 20000000, more than any visit has.",
  ],
  [
    { jobs: [job("a", [hands(1, "hood", "sink")])], resources: [{ id: "hood", capacity: 1 }] },
    "unknown-reference jobs[0].phases[0].uses[1]: There is no resource sink.",
  ],
  [
    { jobs: [job("a", [{ kind: "rest", minutes: 1 } as never])] },
    'bad-value jobs[0].phases[0].kind: A phase is "hands" or "wait", not rest.',
  ],
  [
    { jobs: [job("a", [hands(1), wait(5, 4), hands(1)])] },
    "out-of-range jobs[0].phases[1].maxMinutes: a must wait at least 5 and at most 4 minutes: that cannot both be.",
  ],
  [
    { jobs: [job("a", [hands(1), wait(5, 9)])] },
    "bad-value jobs[0].phases[1].maxMinutes: a ends with a wait: nothing comes after it that a longest time could hold to.",
  ],
  [
    { jobs: [job("a", [hands(1)], { windows: [[9, 8]] })] },
    "out-of-range jobs[0].windows[0]: jobs[0].windows[0] ends (8) before it begins (9).",
  ],
  [
    { jobs: [job("a", [hands(1)], { windows: [[1] as never] })] },
    "bad-value jobs[0].windows[0]: jobs[0].windows[0] must be [from, to].",
  ],
  [
    { technicians: 2, technicianHours: [[[0, 9]]] },
    "bad-value technicianHours: Give hours for each of the 2 technicians, not for 1.",
  ],
  [
    {
      technicianHours: [
        [
          [0, 9],
          [8, 7],
        ],
      ],
    },
    "out-of-range technicianHours[0][1]: technicianHours[0][1] ends (7) before it begins (8).",
  ],
  [{ fixed: [{ job: "b", index: 0, start: 0 }] }, "unknown-reference fixed[0].job: There is no job b."],
  [{ fixed: [{ job: "a", index: 3, start: 0 }] }, "unknown-reference fixed[0].index: a has no phase 3."],
  [
    {
      fixed: [
        { job: "a", index: 0, start: 0 },
        { job: "a", index: 0, start: 1 },
      ],
    },
    "bad-value fixed[1]: Phase 0 of a is fixed twice.",
  ],
  [
    { fixed: [{ job: "a", index: 0, start: 0, technician: 1 }] },
    "out-of-range fixed[0].technician: Technicians are numbered 0 to 0; 1 is none of them.",
  ],
  [
    { fixed: [{ job: "a", index: 0, start: 0, technician: -1 }] },
    "out-of-range fixed[0].technician: Technicians are numbered 0 to 0; -1 is none of them.",
  ],
  [
    { fixed: [{ job: "a", index: 1, start: 0, technician: 0 }] },
    "bad-value fixed[0].technician: Phase 1 of a is a wait: it takes no technician.",
  ],
])("%#: is told what is wrong and where", (more, words) => {
  expect(told(visit(more))).toBe(words);
});

it.each(["release", "deadline"])("a job's %s is a whole minute", (field) => {
  expect(told(visit({ jobs: [job("a", [hands(1)], { [field]: 0.5 })] }))).toContain(`jobs[0].${field}`);
  expect(told(visit({ jobs: [job("a", [hands(1)], { [field]: -1 })] }))).toContain(`jobs[0].${field}`);
  expect(told(visit({ jobs: [job("a", [hands(1)], { [field]: 0 })] }))).toBe("");
});

it("takes what is unusual but right: no jobs, no phases, minutes of nothing, work begun before now", () => {
  for (const more of [
    {},
    { jobs: [] },
    { jobs: [job("a", [])] },
    { jobs: [job("a", [hands(0), wait(0, 0), hands(0)], { windows: [[7, 7]] })] },
    { fixed: [{ job: "a", index: 0, start: -30, technician: 0 }] },
    {
      fixed: [
        { job: "a", index: 0, start: 0 },
        { job: "a", index: 1, start: 5 },
      ],
    },
  ])
    expect(told(visit(more))).toBe("");
});

it("tells technicians apart up to a number, and takes any number of alike ones", () => {
  const many = MOST_DISTINCT_TECHNICIANS + 1;
  const hours = Array.from({ length: many }, () => [[0, 9]]);
  expect(told(visit({ technicians: many }))).toBe("");
  expect(told(visit({ technicians: many, technicianHours: hours }))).toMatch(/^out-of-range technicians: Up to 30/);
  expect(told(visit({ technicians: many, fixed: [{ job: "a", index: 0, start: 0, technician: 2 }] }))).toMatch(
    /Up to 30/,
  );
  expect(told(visit({ technicians: many, fixed: [{ job: "a", index: 0, start: 0 }] }))).toBe("");
  expect(told(visit({ technicians: many - 1, technicianHours: hours.slice(1) }))).toBe("");
});
