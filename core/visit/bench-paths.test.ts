import { checkVisit, packVisit } from "./index";
import { benchPaths } from "./testing/bench-paths";

it.each([2, 3])(
  "packs machines with parts on the bench near what cannot be bettered, and shorter with two (%i)",
  (seed) => {
    const [alone, two] = [1, 2].map((technicians) => {
      const problem = benchPaths(seed, { machines: [5, 8], paths: [8, 12], technicians });
      const schedule = packVisit(problem, { nodeLimit: 900 });
      expect(checkVisit(problem, schedule)).toEqual([]);
      return schedule;
    });
    expect(alone!.makespan).toBeLessThanOrEqual(alone!.lowerBound * 1.03);
    expect(two!.makespan).toBeLessThan(alone!.makespan * 0.75);
  },
);
