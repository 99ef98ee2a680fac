import type { SheetScript } from "./simulate-sheet";

/** How the condensers of three prep cabinets were found: one clogs with flour, one could wait, one is as it should be. Invented. */
const FOUND: {
  tag: string;
  by: string;
  services: [daysAgo: number, found: NonNullable<SheetScript["found"]>, air: number][];
}[] = [
  {
    tag: "HH-1007",
    by: "mira",
    services: [
      [371, "fair", 4],
      [279, "poor", 5],
      [187, "fair", 4],
      [96, "poor", 5],
      [20, "fair", 3],
    ],
  },
  {
    tag: "HH-4003",
    by: "tove",
    services: [
      [290, "clean", 3],
      [199, "clean", 2],
      [106, "clean", 3],
    ],
  },
  {
    tag: "HH-2009",
    by: "mira",
    services: [
      [303, "fair", 3],
      [212, "clean", 3],
      [118, "fair", 4],
      [27, "poor", 5],
    ],
  },
];

export const CONDENSERS = FOUND.flatMap(({ tag, by, services }) =>
  services.map(([daysAgo, found, air]) => ({
    ...{ tag, procedure: "prep-cabinet-condenser", daysAgo, by },
    script: { found, readings: { "cabinet-temperature": [air, 3] } } satisfies SheetScript,
  })),
);

/** Sites with more dust, or less, than usual. */
export const DUST = [
  { site: "Aquarium and café", dust: "much" },
  { site: "Boatyard", dust: "much" },
  { site: "School kitchen", dust: "little" },
] as const;
