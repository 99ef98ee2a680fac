import { must } from "../must";
import { lifeOf, pieceAges } from "./index";

describe("ages of pieces", () => {
  const at = (day: number): number => day * 86_400_000;
  const fit = (
    day: number,
    cameOut: "worn" | "failed" | "planned" = "worn",
    slot = "s",
    retiredAt: number | null = null,
  ) => ({
    ...{ machineId: "m", slot, cameOut, at: at(day), retiredAt },
  });

  it("are from one fit to the next: a failure where the piece was worn or failed, else it lasted at least so long", () => {
    const fits = [fit(0), fit(100, "worn"), fit(250, "planned"), fit(300, "failed"), fit(300.5), fit(10, "worn", "t")];
    expect(pieceAges(fits, at(400))).toEqual({ failures: [100, 50], suspensions: [150, 99.5, 390] });
    expect(pieceAges([fit(0, "worn", "s", at(40))], at(400))).toEqual({ failures: [], suspensions: [40] });
    expect(pieceAges([], at(5))).toEqual({ failures: [], suspensions: [] });
  });

  it("say how long a part lasts once two have failed, and whether renewing it by plan pays", () => {
    const costs = { planned: 2000, failure: 30_000 };
    expect(lifeOf({ failures: [100], suspensions: [50] }, costs)).toBeNull();
    expect(lifeOf({ failures: [], suspensions: [50] }, costs)).toBeNull();
    const worn = must(lifeOf({ failures: [90, 100, 110, 105, 95], suspensions: [60] }, costs));
    expect(worn.fit.shape).toBeGreaterThan(5);
    expect(must(worn.age)).toBeLessThan(90);
    expect(worn.costRate).toBeLessThan(worn.runToFailure);
    const random = must(lifeOf({ failures: [5, 400, 30, 1, 90, 700], suspensions: [] }, costs));
    expect(random.age).toBeNull();
    expect(lifeOf({ failures: [90, 100], suspensions: [] }, { planned: 0, failure: 0 })).toBeNull();
  });
});
