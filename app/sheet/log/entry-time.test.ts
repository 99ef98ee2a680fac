import { restamped, timeBehind } from "./entry-time";

const NOW = Date.UTC(2026, 5, 1, 8);
const iso = (ms: number): string => new Date(ms).toISOString();

describe("an entry's time", () => {
  it("is the server's, and certain", () => {
    expect(timeBehind({ at: NOW, certain: true }, NOW - 1)).toEqual({ at: iso(NOW) });
    expect(timeBehind({ at: NOW, certain: true }, 0)).toEqual({ at: iso(NOW) });
  });

  it("is never before the last of its sheet, and says so when that is more than a moment", () => {
    expect(timeBehind({ at: NOW, certain: true }, NOW)).toEqual({ at: iso(NOW + 1) });
    expect(timeBehind({ at: NOW, certain: true }, NOW + 1_000)).toEqual({ at: iso(NOW + 1_001) });
    expect(timeBehind({ at: NOW, certain: true }, NOW + 5_000)).toEqual({ at: iso(NOW + 5_001), uncertain: true });
  });

  it("says when nobody can vouch for it", () => {
    expect(timeBehind({ at: NOW, certain: false }, 0)).toEqual({ at: iso(NOW), uncertain: true });
  });
});

describe("a time that was not taken", () => {
  const entry = { id: "e", at: iso(NOW + 5 * 3_600_000) };

  it("is put right, and what was told first stays readable, however often it is put right", () => {
    const once = restamped(entry, NOW);
    expect(once).toEqual({ id: "e", at: iso(NOW), uncertain: true, deviceAt: entry.at });
    expect(once && restamped(once, NOW + 60_000)).toEqual({ ...once, at: iso(NOW + 60_000) });
  });

  it("stays when it is the same all the same", () => {
    expect(restamped({ ...entry, at: iso(NOW) }, NOW + 1_000)).toBeNull();
  });
});
