import { dueRings } from "./phases";

const START = "2026-03-02T08:00:00.000Z";
const at = (minutes: number): number => Date.parse(START) + minutes * 60_000;
const soak = { key: "soak#1", title: "Soak", bounds: { minMinutes: 30, maxMinutes: 45 }, startedAt: START };

/** Minute by minute, what rang. */
function rung(clocks: Parameters<typeof dueRings>[0], until: number): string[] {
  const heard: string[] = [];
  let before = {};
  for (let minute = 0; minute <= until; minute++) {
    const { rings, phases } = dueRings(clocks, at(minute), before);
    before = phases;
    heard.push(...rings.map((one) => `${minute} ${one.urgent ? "!" : ""}${one.says}`));
  }
  return heard;
}

describe("when a clock rings", () => {
  it("rings at the minimum, before the maximum and past it, once each", () => {
    const heard = rung([soak], 60);
    expect(heard).toHaveLength(3);
    expect(heard[0]).toMatch(/^30 long enough/);
    expect(heard[1]).toMatch(/^4[0-4] !take it out now/);
    expect(heard[2]).toMatch(/^46 !past the maximum/);
  });

  it("rings once for a wait without a maximum", () => {
    expect(rung([{ ...soak, bounds: { minMinutes: 10 } }], 200)).toEqual(["10 long enough"]);
  });

  it("rings for what ran out while no page was open, and not again for what has rung", () => {
    const first = dueRings([soak], at(50), {});
    expect(first.rings).toMatchObject([{ title: "Soak", urgent: true }]);
    expect(dueRings([soak], at(51), first.phases).rings).toEqual([]);
  });

  it("rings anew for a clock that was started anew", () => {
    const { phases } = dueRings([soak], at(31), {});
    const again = { ...soak, startedAt: "2026-03-02T09:00:00.000Z" };
    expect(dueRings([again], Date.parse(again.startedAt), phases).rings).toEqual([]);
    expect(dueRings([again], Date.parse(again.startedAt) + 31 * 60_000, phases).rings).toHaveLength(1);
  });

  it("keeps time with a practice that is ahead", () => {
    expect(dueRings([{ ...soak, aheadMs: 31 * 60_000 }], at(0), {}).rings).toHaveLength(1);
  });
});
