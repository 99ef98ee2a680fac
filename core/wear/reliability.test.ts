import { fitWeibull, replacementAge } from "./index";

describe("a Weibull fit", () => {
  // Twenty units on test for 500 hours, ten of which failed (NIST/SEMATECH e-Handbook, 8.4.1.2); its figures from memory.
  const failures = [54, 187, 216, 240, 244, 335, 361, 373, 375, 386];
  const suspensions = Array.from({ length: 10 }, () => 500);

  it("of a handbook's censored example is the handbook's", () => {
    const fit = fitWeibull({ failures, suspensions });
    expect(fit.shape).toBeCloseTo(1.7208, 4);
    expect(fit.scale).toBeCloseTo(606.528, 3);
    expect(fit.logLikelihood).toBeCloseTo(-75.135, 3);
  });

  /** The likelihood written out, as it is defined. */
  const likelihood = (shape: number, scale: number): number =>
    failures.reduce(
      (all, age) => all + Math.log(shape / scale) + (shape - 1) * Math.log(age / scale) - (age / scale) ** shape,
      0,
    ) - suspensions.reduce((all, age) => all + (age / scale) ** shape, 0);

  it("is where the likelihood is highest, with intervals by its curvature there", () => {
    const fit = fitWeibull({ failures, suspensions });
    expect(fit.logLikelihood).toBeCloseTo(likelihood(fit.shape, fit.scale), 9);
    for (const [a, b] of [
      [1.001, 1],
      [0.999, 1],
      [1, 1.001],
      [1, 0.999],
    ] as const)
      expect(likelihood(fit.shape * a, fit.scale * b)).toBeLessThan(fit.logLikelihood);
    // Second differences on the logarithms.
    const h = 1e-3;
    const at = (a: number, b: number): number => likelihood(fit.shape * Math.exp(a * h), fit.scale * Math.exp(b * h));
    const aa = -(at(1, 0) - 2 * at(0, 0) + at(-1, 0)) / h ** 2;
    const bb = -(at(0, 1) - 2 * at(0, 0) + at(0, -1)) / h ** 2;
    const ab = -(at(1, 1) - at(1, -1) - at(-1, 1) + at(-1, -1)) / (4 * h ** 2);
    const determinant = aa * bb - ab ** 2;
    const half = (ci: readonly [number, number]): number => Math.log(ci[1] / ci[0]) / 2 / 1.959964;
    expect(half(fit.shapeCi)).toBeCloseTo(Math.sqrt(bb / determinant), 4);
    expect(half(fit.scaleCi)).toBeCloseTo(Math.sqrt(aa / determinant), 4);
  });

  it("is the same in other units, however large, and of failures alone", () => {
    const days = fitWeibull({ failures, suspensions });
    const far = fitWeibull({
      failures: failures.map((one) => one * 1e9),
      suspensions: suspensions.map((one) => one * 1e9),
    });
    expect(far.shape).toBeCloseTo(days.shape, 9);
    expect(far.scale / 1e9).toBeCloseTo(days.scale, 6);
    const steep = fitWeibull({ failures: [1000, 1000.5, 1001] });
    expect(steep.shape).toBeGreaterThan(1000);
    expect(steep.scale).toBeGreaterThan(1000);
    expect(() => fitWeibull({ failures: [5, 5, 5], suspensions: [9] })).toThrow(/different ages/);
    expect(() => fitWeibull({ failures: [5, 0] })).toThrow(/failures\[1\]/);
  });
});

describe("the age of replacement", () => {
  /** Cost by the time up to an age, integrated in small steps. */
  function rate(age: number, shape: number, scale: number, planned: number, failed: number): number {
    const steps = 20_000;
    const runsOn = (t: number): number => Math.exp(-((t / scale) ** shape));
    let used = 0;
    for (let i = 0; i < steps; i++) used += (runsOn((age * i) / steps) + runsOn((age * (i + 1)) / steps)) / 2;
    return (planned * runsOn(age) + failed * (1 - runsOn(age))) / ((used * age) / steps);
  }

  it.each([
    [2, 100, 1, 5],
    [3.5, 40, 20, 90],
    [1.3, 365, 10, 400],
    [6, 12, 3, 4],
  ])("of shape %d and scale %d, at %d planned and %d failed, costs least", (shape, scale, plannedCost, failureCost) => {
    const { age, costRate, runToFailureCostRate } = replacementAge({ shape, scale, plannedCost, failureCost });
    const best = age ?? NaN;
    expect(costRate).toBeCloseTo(rate(best, shape, scale, plannedCost, failureCost), 6);
    for (const other of [best * 0.97, best * 1.03, best * 0.5, best * 2])
      expect(rate(other, shape, scale, plannedCost, failureCost)).toBeGreaterThan(costRate);
    expect(runToFailureCostRate).toBeCloseTo(rate(scale * 12, shape, scale, plannedCost, failureCost), 5);
    expect(costRate).toBeLessThan(runToFailureCostRate);
  });

  it("there is none for what does not wear out, or costs no more when it fails", () => {
    for (const never of [
      { shape: 1, scale: 50, plannedCost: 1, failureCost: 100 },
      { shape: 0.7, scale: 50, plannedCost: 1, failureCost: 100 },
      { shape: 4, scale: 50, plannedCost: 30, failureCost: 30 },
    ]) {
      const said = replacementAge(never);
      expect(said.age).toBeNull();
      expect(said.costRate).toBe(said.runToFailureCostRate);
    }
    expect(() => replacementAge({ shape: 2, scale: 0, plannedCost: 1, failureCost: 2 })).toThrow(/scale/);
  });
});
