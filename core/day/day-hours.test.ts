import { dayHours } from "./day-hours";

type Event = Parameters<typeof dayHours>[0][number];
const at = (minute: number, type: Event["type"], siteId: string | null = null): Event => ({ minute, type, siteId });

describe("where the hours of a day went", () => {
  it("tells sites from the way between them", () => {
    const events = [
      at(480, "started"),
      at(500, "arrived", "a"),
      at(560, "left", "a"),
      at(570, "replanned"),
      at(590, "arrived", "b"),
      at(620, "left", "b"),
      at(650, "ended"),
    ];
    expect(dayHours(events, null)).toEqual({
      from: 480,
      to: 650,
      sites: [
        { siteId: "a", from: 500, to: 560 },
        { siteId: "b", from: 590, to: 620 },
      ],
      onSite: 90,
      away: 80,
    });
  });

  it("runs until now while the day goes on", () => {
    expect(dayHours([at(480, "started"), at(500, "arrived", "a")], 530)).toMatchObject({
      onSite: 30,
      away: 20,
      to: null,
    });
  });

  it("counts a second visit of a site", () => {
    const twice = [at(0, "started"), ...[0, 100].flatMap((t) => [at(t + 10, "arrived", "a"), at(t + 20, "left", "a")])];
    expect(dayHours(twice, 200)).toMatchObject({ onSite: 20, away: 180 });
    expect(dayHours(twice, 200).sites).toHaveLength(2);
  });

  it("goes on past midnight", () => {
    const night = [at(1320, "started"), at(1400, "arrived", "a"), at(1500, "left", "a"), at(1530, "ended")];
    expect(dayHours(night, null)).toMatchObject({ from: 1320, to: 1530, onSite: 100, away: 110 });
  });

  it("makes up nothing: not begun, or a past day that was never ended", () => {
    expect(dayHours([], 600)).toEqual({ from: null, to: null, sites: [], onSite: 0, away: 0 });
    expect(dayHours([at(480, "started"), at(500, "arrived", "a")], null)).toMatchObject({ onSite: 0, away: 0 });
  });
});
