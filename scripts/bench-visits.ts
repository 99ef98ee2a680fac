/**
 * Packing of visits and ordering of rounds: our search against a general-purpose solver (HiGHS, mixed-integer programme),
 * against one machine after another, and against a greedy schedule, on the same instances in one run.
 */
import highs from "highs";

import { readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { DayDriver } from "../core/day/drive-day";
import { bestOfAllOrders } from "../core/day/order-sites";
import { drawnDay } from "../core/day/testing/drawn-days";
import {
  checkVisit,
  expandNested,
  orderRound,
  packVisit,
  placeGates,
  planDay,
  type Procedure,
  procedurePhases,
  visitJobs,
  type VisitProblem,
} from "../core/index";
import { must } from "../core/must";
import { euclidean, geographical, type Tour, TOURS } from "../core/round/testing/tours";
import { insertJobs } from "../core/visit/insert-jobs";
import { buildModel, range } from "../core/visit/model";
import { buildPairs, NEVER_TOGETHER } from "../core/visit/pairs";
import { benchPaths } from "../core/visit/testing/bench-paths";
import { JOB_SHOPS, jobShop } from "../core/visit/testing/job-shops";
import { AS_ONE_LIST, OVEN } from "../core/visit/testing/oven-weekly";
import { drawnVisit } from "../db/demo/drawn-visits";
import { annealedInsertion } from "./lib/annealed-insertion";

const print = (...cells: (string | number)[]): void =>
  void process.stdout.write(
    `${cells.map((cell, i) => (i === 0 ? String(cell).padEnd(34) : String(cell).padStart(13))).join("")}\n`,
  );
const SOLVER_SECONDS = 10;
const solver = await highs();

const read = readProcedureFiles(shippedFolder());
const procedures: Procedure[] = read
  .filter((one) => one.family !== "any")
  .map((one) =>
    placeGates(expandNested(one, (id, version) => read.find((other) => other.id === id && other.version === version))),
  );

process.stdout.write("\nVisits: length in minutes and time to the proof (or gap when stopped)\n");
print("", "ours", "", "HiGHS", "", "one by one", "greedy", "bound");
const instances: [string, VisitProblem, number][] = [
  ...[3, 4, 5, 6, 8].map((machines, i): [string, VisitProblem, number] => [
    `demo procedures, ${machines} machines`,
    drawnVisit(procedures, 500 + i, { from: machines, to: machines }, 40),
    5000,
  ]),
  ["job shop 6 × 6 (Fisher, Thompson)", jobShop("ft06"), 20_000],
  ["job shop 10 × 5 (Lawrence)", jobShop("la01"), 20_000],
  ["job shop 10 × 10 (Fisher, Thompson)", jobShop("ft10"), 10_000],
];
for (const [name, problem, timeLimitMs] of instances) {
  const began = performance.now();
  let provenAt = NaN;
  const ours = packVisit(problem, {
    timeLimitMs,
    onProgress: (best, bound) => {
      if (best <= bound) provenAt = performance.now() - began;
    },
  });
  const faults = checkVisit(problem, ours);
  if (faults.length > 0) throw new Error(faults.join(" "));
  const theirs = bySolver(problem, ours.makespan);
  const model = buildModel(problem);
  const greedy = insertJobs(model, range(problem.jobs.length))?.makespan ?? NaN;
  print(
    name,
    ours.makespan,
    ours.status === "optimal" ? `${(provenAt || 0).toFixed(0)} ms` : gap(ours.makespan, ours.lowerBound),
    theirs.length,
    theirs.time,
    oneByOne(problem),
    greedy,
    ours.lowerBound,
  );
}
process.stdout.write(
  `HiGHS was stopped after ${SOLVER_SECONDS} s an instance; job shops: ${Object.entries(JOB_SHOPS)
    .map(([name, { optimum }]) => `${name} ${optimum}`)
    .join(", ")} are the published optima.\n`,
);

process.stdout.write(
  "\n200 visits drawn by seed from the demo procedures, up to 8 machines and 40 phases, one technician, 1 s each\n",
);
report(
  range(200).map((seed) => drawnVisit(procedures, seed, { from: 2, to: 8 }, 40)),
  1000,
);
process.stdout.write("\nA weekly oven service, minutes from arrival to proof\n");
{
  print("one list, made safe in each part", AS_ONE_LIST);
  const whole = placeGates(expandNested(OVEN.weekly, () => OVEN.daily));
  const problem = {
    technicians: 1,
    jobs: visitJobs({ id: "oven" }, procedurePhases(whole, { options: [] })),
    resources: [{ id: "sink", capacity: 1 }],
  };
  const packed = packVisit(problem, { timeLimitMs: 1000 });
  const cooling = must(OVEN.weekly.states?.find((state) => state.id === "cool")?.in.waitMinutes);
  print("states and paths", packed.makespan, packed.status, `${packed.makespan - cooling} + ${cooling}`);
}

process.stdout.write(
  "\n200 visits of up to 8 machines whose parts go their own way on the bench, one technician, 1 s each\n",
);
report(
  range(200).map((seed) => benchPaths(seed, { machines: [2, 8], paths: [0, 12] })),
  1000,
);
for (const technicians of [1, 2]) {
  process.stdout.write(`\n20 visits of 8 machines with 40 such paths, ${technicians} at work, 5 s each\n`);
  report(
    range(20).map((seed) => benchPaths(seed, { machines: [8, 8], paths: [40, 40], technicians })),
    5000,
  );
}
process.stdout.write("\n20 visits of 20 machines, 5 s each\n");
report(
  range(20).map((seed) => drawnVisit(procedures, seed, { from: 20, to: 20 }, 1000)),
  5000,
);

process.stdout.write(
  "\n10 visits of 60 machines, 5 s each, against whole jobs placed in an order that is annealed as long\n",
);
for (const technicians of [1, 2]) {
  const lengths = range(10).map((seed) => {
    const problem = { ...drawnVisit(procedures, 900 + seed, { from: 60, to: 60 }, 5000), technicians };
    const ours = packVisit(problem, { timeLimitMs: 5000 });
    const faults = checkVisit(problem, ours);
    if (faults.length > 0) throw new Error(faults.join(" "));
    return { ours: ours.makespan, bound: ours.lowerBound, plain: annealedInsertion(problem, 5000).makespan };
  });
  print(`${technicians} at work: ours`, ...lengths.map((one) => one.ours));
  print("plain", ...lengths.map((one) => one.plain));
  print("bound", ...lengths.map((one) => one.bound));
}

process.stdout.write("\n30 days with narrow doors against every order: all are tried up to seven sites, some beyond\n");
for (const [sites, nodeLimit] of [
  [7, 400],
  [8, 400],
  [8, 4000],
] as const) {
  const days = range(30).map((seed) => {
    const problem = drawnDay(seed, { sites: [sites, sites], jobs: 24 });
    const began = performance.now();
    const plan = planDay(problem, { nodeLimit });
    return { problem, plan, ms: performance.now() - began };
  });
  const gaps = days.map(({ problem, plan }) => {
    const best = bestOfAllOrders(new DayDriver(problem, 1), range(sites), {
      best: null,
      first: -1,
      good: () => true,
      enough: () => false,
      goesOn: () => true,
    });
    return { late: plan.lateMinutes - must(best).lateMinutes, end: plan.endAt - must(best).endAt };
  });
  const mean = (of: (one: (typeof gaps)[number]) => number): string =>
    (gaps.reduce((sum, one) => sum + of(one), 0) / gaps.length).toFixed(1);
  print(
    `${sites} sites, ${nodeLimit} nodes, ${(days.reduce((sum, { ms }) => sum + ms, 0) / 30).toFixed(0)} ms`,
    `${gaps.filter((gap) => gap.late > 0 || (gap.late === 0 && gap.end > 0)).length} worse`,
    `${mean((gap) => gap.late)} min late`,
    `${mean((gap) => (gap.late === 0 ? gap.end : 0))} min longer`,
  );
}

process.stdout.write("\nRounds: published tours\n");
print("", "ours", "published", "time", "status");
for (const [name, tour] of Object.entries(TOURS) as [string, Tour][]) {
  const { points, distance, optimum } = tour;
  const travel = points.map((a) =>
    points.map((b) => (a === b ? 0 : distance === "euclidean" ? euclidean(a, b) : geographical(a, b))),
  );
  const began = performance.now();
  const round = orderRound(
    { stops: points.slice(1).map((_, i) => ({ id: `p${i}`, minutes: 0 })), travel },
    { timeLimitMs: 3000 },
  );
  print(name, round.travelMinutes, optimum, `${(performance.now() - began).toFixed(0)} ms`, round.status);
}

function report(problems: VisitProblem[], timeLimitMs: number): void {
  const proofs: number[] = [];
  const gaps: number[] = [];
  let proven = 0;
  let saved = 0;
  for (const problem of problems) {
    const began = performance.now();
    let provenAt = 0;
    const schedule = packVisit(problem, {
      timeLimitMs,
      onProgress: (best, bound) => {
        if (best <= bound) provenAt = performance.now() - began;
      },
    });
    if (schedule.status === "optimal") {
      proven++;
      proofs.push(provenAt);
    } else gaps.push((schedule.makespan - schedule.lowerBound) / schedule.lowerBound);
    saved += 1 - schedule.makespan / oneByOne(problem);
  }
  proofs.sort((a, b) => a - b);
  const at = (share: number): string =>
    `${(proofs[Math.min(proofs.length - 1, Math.floor(share * proofs.length))] ?? NaN).toFixed(0)} ms`;
  print("proven optimal", `${proven} of ${problems.length}`);
  print("time to the proof, median / 95 %", at(0.5), at(0.95), `longest ${at(1)}`);
  gaps.sort((a, b) => a - b);
  if (gaps.length > 0) print("gaps of the rest", gaps.map((one) => `${(100 * one).toFixed(1)} %`).join(" "));
  print("shorter than one by one", `${((100 * saved) / problems.length).toFixed(1)} %`);
}

function gap(length: number, bound: number): string {
  return `gap ${((100 * (length - bound)) / bound).toFixed(1)} %`;
}

function oneByOne(problem: VisitProblem): number {
  return problem.jobs.reduce((sum, job) => sum + job.phases.reduce((inner, phase) => inner + phase.minutes, 0), 0);
}

/** The same visit as a mixed-integer programme: a binary for each pair that takes turns. */
function bySolver(problem: VisitProblem, known: number): { length: number | string; time: string } {
  const model = buildModel(problem);
  const pairs = buildPairs(model);
  const most = Math.ceil(known * 1.5) + 60;
  const term = (point: number): string => `x${point}`;
  const rules: string[] = [];
  for (const { from, to, weight } of model.edges) rules.push(`${term(to)} - ${term(from)} >= ${weight}`);
  for (let p = 0; p < model.phases; p++)
    if (model.isHands[p]) rules.push(`C - ${term(must(model.startPoint[p]))} >= ${model.length[p]}`);
  const binaries: string[] = [];
  for (let k = 0; k < pairs.count; k++) {
    if (!(must(pairs.kind[k]) & NEVER_TOGETHER)) continue;
    const [p, q] = [must(pairs.first[k]), must(pairs.second[k])];
    const before = (a: number, b: number, sign: string, constant: number): string =>
      `${term(must(model.startPoint[b]))} - ${term(must(model.endPoint[a]))} ${sign} ${most} y${k} >= ${must(model.endOffset[a]) - must(model.startOffset[b]) - constant}`;
    rules.push(before(p, q, "-", most), before(q, p, "+", 0));
    binaries.push(`y${k}`);
  }
  const bounds = range(model.points).map((v) =>
    model.earliest[v] === model.latest[v] ? `${term(v)} = ${model.earliest[v]}` : `0 <= ${term(v)} <= ${most}`,
  );
  const lp = `Minimize\n obj: C\nSubject To\n${rules.map((rule, i) => ` r${i}: ${rule}`).join("\n")}\nBounds\n${bounds.map((line) => ` ${line}`).join("\n")}\nBinary\n ${binaries.join(" ")}\nEnd\n`;
  const began = performance.now();
  const result = solver.solve(lp, { time_limit: SOLVER_SECONDS });
  const time = performance.now() - began;
  return {
    length: Number.isFinite(result.ObjectiveValue) ? Math.round(result.ObjectiveValue) : "none",
    time: result.Status === "Optimal" ? `${time.toFixed(0)} ms` : `${(time / 1000).toFixed(0)} s, not proven`,
  };
}
