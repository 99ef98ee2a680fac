import type { VisitModel } from "./model";
import type { Tasks } from "./push-disjunctive";

/** Groups that each phase takes part in. */
export function groupsOfPhases({ phases, groups }: VisitModel): Int32Array[] {
  return Array.from({ length: phases }, (_, p) =>
    Int32Array.from(groups.flatMap((group, g) => (group.tasks.includes(p) ? [g] : []))),
  );
}

/** Phases that begin or end at each point. */
export function phasesOfPoints({ points, phases, startPoint, endPoint }: VisitModel): Int32Array[] {
  const ofPoint: Set<number>[] = Array.from({ length: points }, () => new Set());
  for (let p = 0; p < phases; p++) {
    ofPoint[startPoint[p]!]!.add(p);
    ofPoint[endPoint[p]!]!.add(p);
  }
  return ofPoint.map((set) => Int32Array.from(set));
}

/** Arrays that hold the tasks of any one group, used again for each. */
export function roomForTasks({ groups }: VisitModel): Tasks {
  const most = Math.max(1, ...groups.map((group) => group.tasks.length));
  return {
    count: 0,
    phase: new Int32Array(most),
    est: new Int32Array(most),
    lct: new Int32Array(most),
    length: new Int32Array(most),
    demand: new Int32Array(most),
  };
}
