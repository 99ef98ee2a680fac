import { anchorOf, timeAfter } from "./server-clock";

const SERVER = Date.UTC(2026, 5, 1, 8);
const HOUR = 3_600_000;
/** A device whose clock is right, on a page that has been open for a minute. */
const anchor = { server: SERVER, wall: SERVER, steady: 60_000 };
const after = (wall: number, steady: number, outOfSight = false) =>
  timeAfter(anchor, { wall: SERVER + wall, steady: 60_000 + steady }, outOfSight);

describe("time at the server", () => {
  it("goes on with a device whose clocks run alike, also one that is hours off", () => {
    expect(after(10 * 60_000, 10 * 60_000)).toEqual({ at: SERVER + 10 * 60_000, certain: true });
    const off = { server: SERVER, wall: SERVER - 5 * HOUR, steady: 0 };
    expect(timeAfter(off, { wall: SERVER - 5 * HOUR + 9_000, steady: 9_001 }, false)).toEqual({
      at: SERVER + 9_000,
      certain: true,
    });
  });

  it.each([
    ["on", 5 * HOUR],
    ["back", -5 * HOUR],
    ["on by a little", 30_000],
  ])("is the steady clock's when somebody sets the clock %s, and is not certain then", (_way, jump) => {
    expect(after(60_000 + jump, 60_000)).toEqual({ at: SERVER + 60_000, certain: false });
  });

  it("counts a phone's sleep, in which the steady clock stood still: a soak has its true length", () => {
    expect(after(40 * 60_000, 2_000, true)).toEqual({ at: SERVER + 40 * 60_000, certain: true });
    // Set back while it was out of sight is no sleep.
    expect(after(-HOUR, 2_000, true)).toEqual({ at: SERVER + 2_000, certain: false });
  });

  it("lets the two clocks drift apart by as much as clocks do", () => {
    expect(after(8 * HOUR, 8 * HOUR + 20_000).certain).toBe(true);
    expect(after(8 * HOUR, 8 * HOUR + 60_000).certain).toBe(false);
  });
});

describe("an anchor", () => {
  it("keeps a device's own time when it is right but for an answer's way, and the server's when it is not", () => {
    expect(anchorOf(SERVER, { wall: SERVER + 2_900, steady: 5 }).server).toBe(SERVER + 2_900);
    expect(anchorOf(SERVER, { wall: SERVER + 3_100, steady: 5 }).server).toBe(SERVER);
    expect(anchorOf(SERVER, { wall: SERVER - 9_000, steady: 5 }, 10_000).server).toBe(SERVER - 9_000);
  });
});
