import fc from "fast-check";
import highs from "highs";

import { type LevelItem, levelledWeeks, levelModel, weeklyMinutes } from "./level-weeks";

/** The general-purpose MIP solver HiGHS (WebAssembly build). */
const solver = highs();

async function level(items: LevelItem[], weeks: number): Promise<Map<string, number>> {
  const model = levelModel(items, weeks);
  const { Status, Columns } = (await solver).solve(model.lp);
  expect(Status).toBe("Optimal");
  return levelledWeeks(model, (name) => Math.round((Columns[name] as { Primal: number }).Primal));
}

const item = (id: string, minutes: number, week: number, from = week, to = week): LevelItem => ({
  id,
  minutes,
  week,
  from,
  to,
});

it("moves only what may move, into the emptier week", async () => {
  const items = [item("a", 60, 2), item("b", 60, 2, 1, 2), item("c", 60, 2, 0, 2)];
  const chosen = await level(items, 3);
  expect(weeklyMinutes(items, 3, chosen)).toEqual([60, 60, 60]);
  expect(chosen.get("b")).toBe(1);
  expect(chosen.get("c")).toBe(0);
});

it("flattens the other weeks too, where one fixed week sets the peak", async () => {
  const items = [item("a", 300, 0), item("b", 90, 3, 1, 3), item("c", 90, 3, 1, 3), item("d", 90, 3, 1, 3)];
  expect(weeklyMinutes(items, 4, await level(items, 4))).toEqual([300, 90, 90, 90]);
});

it("leaves everything where nothing is gained", async () => {
  const items = [item("a", 60, 0), item("b", 30, 1, 0, 1)];
  expect(weeklyMinutes(items, 2, await level(items, 2))).toEqual([60, 30]);
});

it("finds the smallest peak that trying every choice finds", async () => {
  const WEEKS = 4;
  const one = fc.record({
    minutes: fc.constantFrom(15, 30, 45, 90),
    week: fc.integer({ min: 0, max: WEEKS - 1 }),
    early: fc.integer({ min: 0, max: 2 }),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(one, { minLength: 1, maxLength: 6 }), async (raw) => {
      const items = raw.map(({ minutes, week, early }, i) =>
        item(String(i), minutes, week, Math.max(0, week - early), week),
      );
      const best = (rest: LevelItem[], load: number[]): number => {
        if (rest.length === 0) return Math.max(...load);
        const [first, ...others] = rest as [LevelItem, ...LevelItem[]];
        let peak = Infinity;
        for (let week = first.from; week <= first.to; week++) {
          peak = Math.min(
            peak,
            best(
              others,
              load.map((minutes, i) => (i === week ? minutes + first.minutes : minutes)),
            ),
          );
        }
        return peak;
      };
      const chosen = await level(items, WEEKS);
      for (const one of items) {
        const week = chosen.get(one.id) ?? one.week;
        expect(week).toBeGreaterThanOrEqual(one.from);
        expect(week).toBeLessThanOrEqual(one.to);
      }
      expect(Math.max(...weeklyMinutes(items, WEEKS, chosen))).toBe(best(items, new Array<number>(WEEKS).fill(0)));
    }),
    { numRuns: 40, seed: 20260110 },
  );
});
