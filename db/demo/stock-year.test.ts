import fc from "fast-check";

import { addDays } from "../../core/index";
import { must } from "../../core/must";
import { stockYear, type YearUse } from "./stock-year";

const FIRST = "2025-06-01";
const TODAY = "2026-06-01";
const ITEMS = [
  { id: "oil", packSize: 500, shelfLifeDays: null },
  { id: "bleach", packSize: 100, shelfLifeDays: 60 },
  { id: "filter", packSize: 1, shelfLifeDays: null },
];

it("lives through any year without ever using what is not there or has expired, and every line adds up", () => {
  const use = fc.record({
    place: fc.constantFrom("van-1", "van-2", "depot"),
    item: fc.constantFrom(...ITEMS.map((item) => item.id)),
    qty: fc.integer({ min: 1, max: 90 }),
    day: fc.integer({ min: 0, max: 360 }),
  });
  fc.assert(
    fc.property(fc.array(use, { minLength: 1, maxLength: 80 }), (drawn) => {
      const uses = drawn.map(({ place, item, qty, day }, i): YearUse => {
        const on = addDays(FIRST, day);
        return {
          place,
          item,
          qty: item === "filter" ? 1 : qty,
          on,
          at: new Date(`${on}T10:00:00Z`),
          by: "mo",
          sheetId: `r${i}`,
          entryId: String(i).padStart(4, "0"),
          machineId: "m",
        };
      });
      const { moves, lots } = stockYear({
        uses,
        items: ITEMS,
        vans: ["van-1", "van-2"],
        depot: "depot",
        first: FIRST,
        today: TODAY,
      });
      const expiry = new Map(lots.map((lot) => [`${lot.item} ${lot.lot}`, lot.expires]));
      const sums = new Map<string, number>();
      for (const move of moves) {
        const key = `${move.place} ${move.item} ${move.lot ?? ""}`;
        sums.set(key, (sums.get(key) ?? 0) + move.qty);
        if (move.kind === "use" && move.lot !== null)
          expect(must(expiry.get(`${move.item} ${move.lot}`)) >= move.on).toBe(true);
      }
      for (const left of sums.values()) expect(left).toBeGreaterThanOrEqual(-1e-9);
      // Every use is booked in full, and nothing is made or lost on the way between places.
      for (const [i, one] of uses.entries()) {
        const booked = moves.filter((move) => move.use?.sheetId === `r${i}`).reduce((sum, move) => sum - move.qty, 0);
        expect(booked).toBeCloseTo(one.qty, 6);
      }
      expect(moves.filter((move) => move.kind === "move").reduce((sum, move) => sum + move.qty, 0)).toBeCloseTo(0, 6);
    }),
    { numRuns: 60, seed: 3 },
  );
});
