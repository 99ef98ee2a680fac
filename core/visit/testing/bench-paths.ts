import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { uniform } from "../../random";
import type { Phase, VisitJob, VisitProblem } from "../types";

export interface BenchPaths {
  machines: [number, number];
  /** Paths over all machines. */
  paths: [number, number];
  technicians?: number;
}

/**
 * Draws a visit whose machines' parts go their own way on the bench: off, sprayed, soaked in one of two sinks, rinsed, dried,
 * back on in the order they came off. Invented sizes.
 */
export function benchPaths(seed: number, { machines, paths, technicians = 1 }: BenchPaths): VisitProblem {
  const random = uniform(xoroshiro128plus(seed));
  const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
  const chance = (p: number): boolean => random() < p;
  const count = whole(...machines);
  const shares = Array.from({ length: whole(...paths) }, () => whole(0, count - 1));
  const jobs = Array.from({ length: count }, (_, m): VisitJob[] => {
    const own = shares.filter((share) => share === m).length;
    const id = `machine ${m + 1}`;
    const phases: Phase[] = [{ kind: "hands", minutes: whole(2, 6) }];
    if (chance(0.5)) phases.push({ kind: "wait", minutes: whole(10, 40) });
    const bench: VisitJob[] = [];
    for (let i = 0; i < own; i++) {
      phases.push({ kind: "hands", minutes: whole(1, 4) });
      bench.push({
        id: `${id}, part ${i + 1}`,
        after: [{ job: id, index: phases.length - 1 }],
        phases: benchPhases({ whole, chance }),
      });
    }
    for (let i = whole(1, 3); i > 0; i--) {
      phases.push({ kind: "hands", minutes: whole(2, 12) });
      if (chance(0.3)) {
        const minutes = whole(5, 15);
        phases.push({ kind: "wait", minutes, ...(chance(0.5) ? { maxMinutes: minutes + whole(2, 20) } : {}) });
      }
    }
    for (const part of bench)
      phases.push({ kind: "hands", minutes: whole(1, 4), after: [{ job: part.id, index: part.phases.length - 1 }] });
    phases.push({ kind: "hands", minutes: whole(2, 6) });
    return [{ id, phases }, ...bench];
  });
  return {
    technicians,
    jobs: jobs.flat(),
    resources: [
      { id: "sink", capacity: 2 },
      { id: "tap", capacity: 1 },
    ],
  };
}

function benchPhases({
  whole,
  chance,
}: {
  whole: (from: number, to: number) => number;
  chance: (p: number) => boolean;
}): Phase[] {
  const soak = whole(5, 30);
  const phases: Phase[] = [
    { kind: "hands", minutes: whole(1, 3), uses: ["sink"] },
    { kind: "wait", minutes: soak, ...(chance(0.4) ? { maxMinutes: soak + whole(5, 30) } : {}), uses: ["sink"] },
    { kind: "hands", minutes: whole(1, 4), uses: ["tap"] },
  ];
  if (chance(0.7)) phases.push({ kind: "wait", minutes: whole(5, 20) });
  return phases;
}
