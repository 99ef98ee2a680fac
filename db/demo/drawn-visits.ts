import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { type Procedure, procedurePhases, type VisitJob, visitJobs, type VisitProblem } from "../../core/index";
import { must } from "../../core/must";

/** A visit to machines drawn by seed, each with a shipped procedure and some of its options fitted. */
export function drawnVisit(
  procedures: readonly Procedure[],
  seed: number,
  machines: { from: number; to: number },
  mostPhases: number,
): VisitProblem {
  const generator = xoroshiro128plus(seed * 7919 + 13);
  const random = (): number => (generator.next() >>> 0) / 0x100000000;
  for (let i = 0; i < 5; i++) random();
  const count = machines.from + Math.floor(random() * (machines.to - machines.from + 1));
  const jobs: VisitJob[] = [];
  let phases = 0;
  for (let i = 0; i < count; i++) {
    const procedure = must(procedures[Math.floor(random() * procedures.length)]);
    const options = procedure.options.filter(() => random() < 0.5).map((option) => option.id);
    const own = visitJobs({ id: `${i + 1} ${procedure.id}` }, procedurePhases(procedure, { options }));
    const more = own.reduce((sum, job) => sum + job.phases.length, 0);
    if (phases + more > mostPhases) continue;
    phases += more;
    jobs.push(...own);
  }
  const shared = [...new Set(jobs.flatMap((job) => job.phases.flatMap((phase) => phase.uses ?? [])))];
  return { technicians: 1, jobs, resources: shared.map((id) => ({ id, capacity: 1 })) };
}
