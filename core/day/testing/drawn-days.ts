import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { uniform } from "../../random";
import type { DayProblem } from "../types";

/** Days with narrow doors, machines with hours of their own, soaks with a longest time: all that makes orders differ. */
export function drawnDay(seed: number, sizes: { sites: [number, number]; jobs: number }): DayProblem {
  const random = uniform(xoroshiro128plus(seed * 31 + 5));
  const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
  const chance = (share: number): boolean => random() < share;
  let left = sizes.jobs;
  const sites = Array.from({ length: whole(...sizes.sites) }, (_, i) => {
    const open = whole(440, 700);
    const jobs = Array.from({ length: Math.min(left, whole(1, 3)) }, (_unused, k) => {
      const from = whole(450, 700);
      const soak = whole(5, 30);
      return {
        id: `${i} ${k}`,
        phases: chance(0.5)
          ? [{ kind: "hands" as const, minutes: whole(5, 50) }]
          : [
              { kind: "hands" as const, minutes: whole(3, 20) },
              { kind: "wait" as const, minutes: soak, ...(chance(0.5) ? { maxMinutes: soak + whole(0, 15) } : {}) },
              { kind: "hands" as const, minutes: whole(3, 20) },
            ],
        value: whole(1, 100),
        ...(chance(0.25) ? { windows: [[from, from + whole(30, 200)] as [number, number]] } : {}),
        ...(chance(0.15) ? { readyBy: whole(540, 800) } : {}),
      };
    });
    left -= jobs.length;
    return {
      id: `s${i}`,
      arriving: whole(0, 10),
      leaving: whole(0, 10),
      resources: [],
      jobs,
      ...(chance(0.6) ? { access: [[open, open + whole(40, 250)] as [number, number]] } : {}),
    };
  }).filter((site) => site.jobs.length > 0);
  const at = [0, ...sites].map(() => [whole(0, 40), whole(0, 40)] as const);
  const travel = at.map((a) =>
    at.map((b) => (a === b ? 0 : Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + whole(0, 4))),
  );
  return { startAt: 480, endBy: whole(600, 800), technicians: chance(0.8) ? 1 : 2, sites, travel };
}
