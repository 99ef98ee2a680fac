import type { FixedPhase, Phase, PhaseRef, VisitJob, VisitProblem } from "../types";

/** Draws a visit, `withAfter` one in which work waits for work of other jobs; `random` gives numbers from 0 to below 1. Sizes small enough for `bruteForce` when `small`. */
export function randomVisit(random: () => number, small: boolean, withAfter = false): VisitProblem {
  const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
  const chance = (p: number): boolean => random() < p;
  const technicians = chance(0.6) ? 1 : whole(2, small ? 2 : 3);
  const resources = Array.from({ length: whole(0, 2) }, (_, i) => ({ id: `r${i}`, capacity: whole(1, 2) }));
  const longest = small ? 2 : 20;
  const latest = small ? 4 : 200;
  const uses = (): { uses?: string[] } => {
    if (resources.length === 0 || !chance(0.35)) return {};
    const one = resources[whole(0, resources.length - 1)]!;
    return { uses: chance(0.1) ? [one.id, one.id] : [one.id] };
  };
  const phase = (last: boolean): Phase => {
    const minutes = chance(0.08) ? 0 : whole(1, longest);
    if (chance(0.55)) return { kind: "hands", minutes, ...uses() };
    return {
      kind: "wait",
      minutes,
      ...(!last && chance(0.5) ? { maxMinutes: minutes + whole(0, longest) } : {}),
      ...uses(),
    };
  };
  const span = (): [number, number] => {
    const from = whole(0, latest);
    return [from, from + whole(1, latest)];
  };
  let left = small ? 5 : 40;
  const jobs = Array.from({ length: whole(withAfter ? 2 : 1, small ? 3 : 8) }, (_, j): VisitJob => {
    const count = Math.min(left, whole(1, small ? 3 : 6));
    left -= count;
    return {
      id: `job ${j}`,
      ...(chance(0.2) ? { release: whole(0, latest) } : {}),
      ...(chance(0.15) ? { deadline: whole(latest / 2, latest * 3) } : {}),
      ...(chance(0.15) ? { windows: Array.from({ length: whole(1, 2) }, span) } : {}),
      phases: Array.from({ length: count }, (_, p) => phase(p === count - 1)),
    };
  });
  if (withAfter) drawAfter(jobs, { whole, chance });
  const fixed = jobs.slice(0, 2).flatMap((job): FixedPhase[] => {
    if (!chance(0.12)) return [];
    // Mostly as it can have been, sometimes not.
    let time = whole(-4, 3);
    return job.phases.slice(0, whole(1, job.phases.length)).flatMap(({ kind, minutes }, index): FixedPhase[] => {
      const start = time + (chance(0.1) ? whole(-1, 1) : 0);
      time = start + minutes + (kind === "wait" && chance(0.5) ? whole(0, longest) : 0);
      if (kind === "wait" && chance(0.3)) return [];
      return [
        {
          job: job.id,
          index,
          start,
          ...(kind === "hands" && chance(0.5) ? { technician: whole(0, technicians - 1) } : {}),
        },
      ];
    });
  });
  return {
    technicians,
    jobs,
    ...(resources.length > 0 ? { resources } : {}),
    ...(chance(0.15)
      ? { technicianHours: Array.from({ length: technicians }, () => Array.from({ length: whole(1, 2) }, span)) }
      : {}),
    ...(fixed.length > 0 ? { fixed } : {}),
  };
}

/** Lets phases come after others, never in a circle: drawn in an order that keeps each job's own. */
function drawAfter(
  jobs: VisitJob[],
  { whole, chance }: { whole: (from: number, to: number) => number; chance: (p: number) => boolean },
): void {
  const placed: PhaseRef[] = [];
  const next = jobs.map(() => 0);
  for (;;) {
    const open = jobs.flatMap((job, j) => (next[j]! < job.phases.length ? [j] : []));
    if (open.length === 0) return;
    const j = open[whole(0, open.length - 1)]!;
    const job = jobs[j]!;
    const index = next[j]!++;
    const refs = placed.length > 0 && chance(0.4) ? [placed[whole(0, placed.length - 1)]!] : [];
    if (refs.length > 0 && chance(0.3)) refs.push(placed[whole(0, placed.length - 1)]!);
    const phase = job.phases[index]!;
    if (refs.length > 0 && index === 0 && chance(0.5)) job.after = refs;
    else if (refs.length > 0 && phase.kind === "hands") phase.after = refs;
    else if (refs.length > 0 && index === 0) job.after = refs;
    placed.push({ job: job.id, index });
  }
}
