import { must, type Trigger } from "@core";

import { sameIntervals } from "~/duties/intervals";

import { bySite, explained, explainedWords } from "./found-by-site";
import { effortWords, poorWords, rulesWords } from "./interval-words";
import type { FoundAtMachine } from "./intervals.sql";
import { boundsOf, isTuned } from "./tuned-duties";

const calendar = (every: number, unit: "day" | "week" | "month"): Trigger => ({
  kind: "calendar",
  every,
  unit,
  basis: "completion",
});
const meter: Trigger = { kind: "meter", meter: "running-hours", every: 100, basis: "completion" };
const duty = (more: object = {}) => ({
  who: "technician" as const,
  hardStop: false,
  authorisation: null,
  rules: { triggers: [calendar(3, "month")] },
  ...more,
});

describe("duties that findings tune", () => {
  it("are those of technicians that come back by themselves, and not within a week", () => {
    expect(isTuned(duty())).toBe(true);
    expect(isTuned(duty({ rules: { triggers: [meter] } }))).toBe(true);
    expect(isTuned(duty({ rules: { triggers: [calendar(14, "day")] } }))).toBe(true);
    expect(isTuned(duty({ rules: { triggers: [calendar(14, "day")], intervalFactor: 0.4 } }))).toBe(false);
    expect(isTuned(duty({ rules: { triggers: [calendar(1, "day")] } }))).toBe(false);
    expect(isTuned(duty({ who: "operator" }))).toBe(false);
    expect(isTuned(duty({ rules: { triggers: [{ kind: "event", event: "x" }] } }))).toBe(false);
  });

  it("stay within bounds, and never grow where harm waits behind them", () => {
    expect(boundsOf(duty())).toMatchObject({ least: 0.5, most: 2 });
    expect(boundsOf(duty({ hardStop: true }))).toMatchObject({ least: 0.5, most: 1 });
    expect(boundsOf(duty({ who: "licensed", rules: { triggers: [], tuning: { most: 3 } } }))).toMatchObject({
      most: 1,
    });
    expect(boundsOf(duty({ authorisation: "licensed-refrigeration" }))).toMatchObject({ most: 1 });
    const given = { triggers: [calendar(2, "month")] };
    const tuned = duty({ rules: { triggers: [calendar(40, "day")], tuning: { least: 0.8, most: 1.5 }, given } });
    expect(boundsOf(tuned)).toEqual({ least: 0.8, most: 1.5, given });
  });

  it("are the same whatever order the database gives their fields in", () => {
    const other = JSON.parse('{"basis":"completion","unit":"month","every":3,"kind":"calendar"}') as Trigger;
    expect(sameIntervals({ triggers: [calendar(3, "month")] }, { triggers: [other], intervalFactor: 1 })).toBe(true);
    expect(sameIntervals({ triggers: [other] }, { triggers: [other], intervalFactor: 0.5 })).toBe(false);
  });
});

describe("words of a proposed interval", () => {
  it("say what it does to a year's work and to the chance of being found poor, with what that rests on", () => {
    expect(effortWords({ oldDays: 91.310625, newDays: 68, minutesAYear: 61.7 })).toBe(
      "4 services a year now, 5.4 then: 1 h more work a year, the way there left aside.",
    );
    expect(effortWords({ oldDays: 91, newDays: 109, minutesAYear: -90 })).toContain("1.5 h less work a year");
    expect(effortWords({ oldDays: 0, newDays: 0, minutesAYear: 0 })).toMatch(/not read often enough/);
    const chance = {
      n: 8,
      poor: 3,
      own: false,
      old: [0.38, 0.39] as [number, number],
      new: [0.18, 0.31] as [number, number],
    };
    expect(poorWords({ chance, oldDays: 91.3, newDays: 68 })).toBe(
      "Found poor or worse: 38 to 39 % after 91 days, 18 to 31 % after 68 (3 of 8 services of machines of its kind so far).",
    );
    expect(poorWords({ chance: { ...chance, n: 1, own: true, old: [0.5, 0.5] }, oldDays: 91, newDays: 68 })).toMatch(
      /: 50 % after .+ \(3 of 1 service of this machine so far\)/,
    );
    expect(poorWords({ chance: null, oldDays: 91, newDays: 68 })).toMatch(/^No service is known yet/);
    expect(rulesWords({ triggers: [calendar(3, "month"), meter], intervalFactor: 0.5 })).toBe(
      "every 3 months, from the last completion; or every 100 on running hours, from the last completion; all times 0.5",
    );
  });
});

describe("sites beside each other", () => {
  const machine = (i: number, more: Partial<FoundAtMachine>): FoundAtMachine => ({
    ...{
      machineId: `m${i}`,
      machineName: "M",
      tag: "t",
      siteId: `s${i}`,
      siteName: `S${i}`,
      water: null,
      dust: "usual",
    },
    ...{ n: 10, clean: 10, fair: 0, poor: 0, failed: 0, meanDays: 90 },
    ...more,
  });

  it("add up machines, days by how many services they are of", () => {
    const rows = [
      machine(1, { n: 3, clean: 1, poor: 2, meanDays: 60 }),
      machine(2, { siteId: "s1", n: 1, clean: 0, failed: 1, meanDays: 100 }),
      machine(3, { siteId: "s1", n: 1, clean: 0, fair: 1, meanDays: null }),
    ];
    expect(bySite(rows)).toEqual([
      expect.objectContaining({ machines: 3, n: 5, clean: 1, fair: 1, poor: 2, failed: 1, meanDays: 70 }),
    ]);
  });

  it("say that dust goes with it only where chance alone would not, and count a site once", () => {
    const poor = (i: number, dust: FoundAtMachine["dust"], share: number) =>
      machine(i, { dust, clean: 10 - share, poor: share });
    const clear = [
      ...[0, 1, 0].map((share, i) => poor(i, "little", share)),
      ...[5, 6, 5].map((share, i) => poor(i + 3, "much", share)),
    ];
    const dust = explained(clear, new Map()).find((one) => one.cause === "dust");
    expect(dust).toMatchObject({ n: 6, of: "sites" });
    // Exact: of the 20 ways to share six sites out two are as clear as this.
    expect(dust?.byLuck).toBeCloseTo(2 / 20, 10);
    expect(explainedWords(dust as never)).toMatch(/^No more agreement with dust than chance gives, over 6 sites/);
    const more = [...clear, poor(6, "much", 6), poor(7, "little", 0)];
    const told = explained(more, new Map()).find((one) => one.cause === "dust");
    expect(told?.byLuck).toBeCloseTo(2 / 70, 10);
    expect(explainedWords(told as never)).toMatch(
      /^The more dust there is, the more often it is found poor: over 8 sites chance alone would agree as much 2\.9 times in 100\.$/,
    );
    // Three machines of one site are one site.
    const one = explained(
      clear.map((row) => ({ ...row, siteId: row.dust, siteName: row.dust })),
      new Map(clear.map((row, i) => [row.machineId, i])),
    );
    expect(one.map(({ cause, of, n, rho }) => [cause, of, n, rho === null])).toEqual([
      ["water", "sites", 0, true],
      ["dust", "sites", 2, true],
      ["load", "machines", 6, false],
    ]);
    expect(explainedWords(must(one[1]))).toBe("Whether dust has a part in it cannot be said from 2 sites.");
  });
});
