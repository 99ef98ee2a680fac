import fc from "fast-check";

import { FAR } from "./model";
import { nextStart, previousStart } from "./starts";

const spans = (...pairs: [number, number][]): Int32Array => Int32Array.from(pairs.flat());

describe("when a technician may start", () => {
  const lists = [spans([10, 20], [40, 50]), spans([15, 45]), null];

  it("is at once inside a span, at the next span's begin between, and never after the last", () => {
    expect([0, 10, 20, 21, 40, 50].map((time) => nextStart(lists, 1, time))).toEqual([10, 10, 20, 40, 40, 50]);
    expect(nextStart(lists, 1, 51)).toBe(FAR);
    expect([60, 50, 45, 39, 20, 10].map((time) => previousStart(lists, 1, time))).toEqual([50, 50, 45, 20, 20, 10]);
    expect(previousStart(lists, 1, 9)).toBe(-FAR);
  });

  it("is the earliest, and the latest, of those who may do it", () => {
    expect(nextStart(lists, 0b11, 21)).toBe(21);
    expect(nextStart(lists, 0b11, 46)).toBe(46);
    expect(previousStart(lists, 0b11, 39)).toBe(39);
    expect(nextStart(lists, 0b10, 46)).toBe(FAR);
  });

  it("is at any time with somebody without hours, and never with nobody", () => {
    expect([nextStart(lists, 0b100, -5), previousStart(lists, 0b101, 99)]).toEqual([-5, 99]);
    expect([nextStart(lists, 0, 5), previousStart(lists, 0, 5)]).toEqual([FAR, -FAR]);
  });

  it("agrees with looking at every minute", () => {
    const list = fc
      .uniqueArray(fc.integer({ min: 0, max: 30 }), { minLength: 0, maxLength: 6 })
      .map((times) => times.sort((a, b) => a - b))
      .map((times) => Int32Array.from(times.slice(0, times.length - (times.length % 2))));
    fc.assert(
      fc.property(
        fc.array(list, { minLength: 1, maxLength: 3 }),
        fc.nat({ max: 7 }),
        fc.nat({ max: 30 }),
        (all, bits, at) => {
          const may = (time: number): boolean =>
            all.some((one, t) => {
              if (!(bits & (1 << t))) return false;
              for (let i = 0; i < one.length; i += 2) if (time >= one[i]! && time <= one[i + 1]!) return true;
              return false;
            });
          const minutes = Array.from({ length: 31 }, (_, i) => i).filter(may);
          expect(nextStart(all, bits, at)).toBe(minutes.find((time) => time >= at) ?? FAR);
          expect(previousStart(all, bits, at)).toBe(minutes.filter((time) => time <= at).at(-1) ?? -FAR);
        },
      ),
    );
  });
});
