import { bySite } from "./by-site";

const row = (siteId: string, hands: number, plannedForName: string | null = null) => ({
  siteId,
  siteName: `Site ${siteId}`,
  takes: { hands },
  plannedForName,
});

it("groups by site: one's own round in its order, then where one has work, then what waits longest", () => {
  const rows = [row("a", 5), row("b", 10), row("a", 7), row("c", 1, "Mira"), row("d", 2, "Tove"), row("e", 3)];
  expect(bySite(rows, ["e", "b"], "Mira").map(({ siteId, minutes, mine }) => [siteId, minutes, mine])).toEqual([
    ["e", 3, true],
    ["b", 10, true],
    ["c", 1, true],
    ["a", 12, false],
    ["d", 2, false],
  ]);
});
