import fc from "fast-check";

import { addDays } from "../days/add-days";
import { runOut } from "./index";
import { liveThrough } from "./testing/day-by-day";

const TODAY = "2026-03-02";
const base = { item: "filter", onHand: 3, demand: [] as { on: string; qty: number }[], leadDays: 5, today: TODAY };
const weekly = (count: number, qty = 1): { on: string; qty: number }[] =>
  Array.from({ length: count }, (_, i) => ({ on: addDays(TODAY, 7 * i), qty }));

it("runs out on the first day that is not met in full; reaching zero is not running out", () => {
  expect(runOut({ ...base, demand: weekly(3) })).toEqual({ runsOutOn: null, orderBy: null, orderQty: 0, expiring: [] });
  expect(runOut({ ...base, demand: weekly(4) })).toMatchObject({
    runsOutOn: "2026-03-23",
    orderBy: "2026-03-18",
    orderQty: 1,
  });
  // The order day may be past: that is the message.
  expect(runOut({ ...base, onHand: 0, demand: weekly(1) })).toMatchObject({
    runsOutOn: TODAY,
    orderBy: "2026-02-25",
    orderQty: 1,
  });
  // Two on hand of three wanted: two are used, one is missing.
  expect(runOut({ ...base, onHand: 2, demand: [{ on: TODAY, qty: 3 }] })).toMatchObject({
    runsOutOn: TODAY,
    orderQty: 1,
  });
  // A day's needs count together, in whatever order they come.
  const late = [
    { on: "2026-03-05", qty: 2 },
    { on: "2026-03-03", qty: 1 },
    { on: "2026-03-05", qty: 1 },
  ];
  expect(runOut({ ...base, demand: late })).toMatchObject({ runsOutOn: "2026-03-05", orderQty: 1 });
});

it("orders whole packs, without the crumbs of adding decimals", () => {
  expect(runOut({ ...base, onHand: 0, demand: weekly(13), packSize: 10 })).toMatchObject({ orderQty: 20 });
  expect(runOut({ ...base, onHand: 0, demand: weekly(10), packSize: 10 })).toMatchObject({ orderQty: 10 });
  expect(runOut({ ...base, onHand: 0, demand: weekly(3, 0.1), packSize: 0.1 })).toMatchObject({ orderQty: 0.3 });
  expect(runOut({ ...base, onHand: 0.3, demand: weekly(3, 0.1) })).toMatchObject({ runsOutOn: null });
});

it("uses what expires first, up to and including its day, and says what will be thrown away", () => {
  const lots = [{ qty: 2, expires: "2026-03-09" }, { qty: 1 }, { qty: 2, expires: "2026-03-03" }];
  expect(runOut({ ...base, onHand: 5, lots, demand: weekly(4) })).toEqual({
    runsOutOn: "2026-03-23",
    orderBy: "2026-03-18",
    orderQty: 1,
    expiring: [
      { on: "2026-03-03", qty: 1 },
      { on: "2026-03-09", qty: 1 },
    ],
  });
  // What has expired already is no stock, and what is on hand beyond the lots never expires.
  expect(runOut({ ...base, onHand: 3, lots: [{ qty: 2, expires: "2026-03-01" }], demand: weekly(2) })).toMatchObject({
    runsOutOn: "2026-03-09",
    expiring: [{ on: "2026-03-01", qty: 2 }],
  });
  // Lots of one day are one line.
  const same = [
    { qty: 1, expires: "2026-04-01" },
    { qty: 2, expires: "2026-04-01" },
  ];
  expect(runOut({ ...base, lots: same }).expiring).toEqual([{ on: "2026-04-01", qty: 3 }]);
});

it("takes less than nothing on hand for nothing, and lots that say more than there is for used from the first to expire", () => {
  expect(runOut({ ...base, onHand: -1, demand: weekly(2) })).toMatchObject({ runsOutOn: TODAY, orderQty: 2 });
  const lots = [
    { qty: 3, expires: "2026-03-20" },
    { qty: 2, expires: "2026-03-10" },
  ];
  expect(runOut({ ...base, onHand: 2, lots }).expiring).toEqual([{ on: "2026-03-20", qty: 2 }]);
});

it("refuses what cannot be, with the field that is wrong", () => {
  const refused = (change: Partial<Parameters<typeof runOut>[0]>, path: string): void => {
    expect(() => runOut({ ...base, ...change })).toThrow(expect.objectContaining({ name: "CoreError", path }) as Error);
  };
  refused({ demand: [{ on: "2026-03-01", qty: 1 }] }, "demand[0].on");
  refused({ demand: [{ on: "2026-02-30", qty: 1 }] }, "demand[0].on");
  refused({ demand: [{ on: TODAY, qty: -1 }] }, "demand[0].qty");
  refused({ demand: [{ on: TODAY, qty: Infinity }] }, "demand[0].qty");
  refused({ onHand: NaN }, "onHand");
  refused({ leadDays: -1 }, "leadDays");
  refused({ leadDays: 1.5 }, "leadDays");
  refused({ packSize: 0 }, "packSize");
  refused({ lots: [{ qty: -1 }] }, "lots[0].qty");
  refused({ lots: [{ qty: 1, expires: "soon" }] }, "lots[0].expires");
  refused({ today: "today" }, "today");
});

it("agrees with living through it day by day, on any stock and any demand", () => {
  const day = (from: number, to: number): fc.Arbitrary<string> =>
    fc.integer({ min: from, max: to }).map((count) => addDays(TODAY, count));
  const stock = fc.record({
    onHand: fc.integer({ min: -2, max: 30 }),
    lots: fc.array(
      fc.record({ qty: fc.integer({ min: 0, max: 8 }), expires: day(-5, 45) }, { requiredKeys: ["qty"] }),
      { maxLength: 6 },
    ),
    demand: fc.array(fc.record({ on: day(0, 40), qty: fc.integer({ min: 0, max: 5 }) }), { maxLength: 25 }),
    packSize: fc.integer({ min: 1, max: 12 }),
    leadDays: fc.integer({ min: 0, max: 30 }),
  });
  fc.assert(
    fc.property(stock, (input) => {
      const lived = liveThrough({ ...input, today: TODAY, until: addDays(TODAY, 60) });
      const found = runOut({ ...input, item: "x", today: TODAY });
      expect(found).toEqual({
        runsOutOn: lived.runsOutOn,
        orderBy: lived.runsOutOn === null ? null : addDays(lived.runsOutOn, -input.leadDays),
        orderQty: Math.ceil(lived.unmet / input.packSize) * input.packSize,
        expiring: lived.thrownAway,
      });
    }),
    { numRuns: 2000, seed: 41 },
  );
});
