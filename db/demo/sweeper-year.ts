import { must } from "../../core/must";
import type { SheetScript } from "./simulate-sheet";

/** What the main broom and the side brooms of a sweeper measure on a day, in inches, and its hour meter. */
interface BroomDay {
  daysAgo: number;
  hours: number;
  main: number;
  side: number;
}

/** Bristle as new, and where a broom is renewed: half of it, about. */
const NEW_MAIN = 4;
const NEW_SIDE = 5;
const WORN_MAIN = 1.95;
const WORN_SIDE = 2.45;
const SIDE_LOSS = 0.00714;
/** Between two looks at a broom before the last weeks. */
const LOOKED_DAYS = 13;
const STORY_DAYS = 345;

/** A sweeper's last weeks as they are told, and before them the year of its brooms, each worn down and renewed. */
export function sweeperYear(
  tag: string,
  by: string,
  story: { hours: number; perDay: number; loss: number; days: number[]; bristle: number[] },
) {
  const told = story.days.map((daysAgo, i): BroomDay => ({
    daysAgo,
    hours: story.hours + i * 7,
    main: must(story.bristle[i]),
    side: 3.3 - i * 0.05,
  }));
  const before: BroomDay[] = [];
  for (let later = must(told[0]), n = 0; later.daysAgo + LOOKED_DAYS < STORY_DAYS; n++) {
    const used = LOOKED_DAYS * story.perDay;
    // A tape measure on bristle: it reads a little short or long.
    const off = (((n * 37) % 11) - 5) * 0.01;
    later = {
      daysAgo: later.daysAgo + LOOKED_DAYS,
      hours: Math.round(later.hours - used),
      main: earlier(later.main, story.loss * used * (1 + off), NEW_MAIN, WORN_MAIN),
      side: earlier(later.side, SIDE_LOSS * used * (1 - off), NEW_SIDE, WORN_SIDE),
    };
    before.unshift(later);
  }
  return [...before, ...told].map(({ daysAgo, hours, ...read }, i) => {
    const [main, side] = [scattered(read.main, WORN_MAIN, i), scattered(read.side, WORN_SIDE, i + 3)];
    return {
      tag,
      procedure: "ride-on-sweeper-daily",
      daysAgo,
      by,
      script: {
        readings: {
          "running-hours": [hours],
          "main-broom-bristle": [main + 0.05, main, main + 0.1].map(inTwentieths),
          "side-broom-bristle": [side + 0.1, side].map(inTwentieths),
          "polish-mark": i % 3 === 1 ? [0.7, 1.1] : [1.2],
        },
      } satisfies SheetScript,
    };
  });
}

/** Nobody reads bristle to the hair; what is near its limit is looked at twice. */
const scattered = (value: number, worn: number, n: number): number =>
  value < worn + 0.5 ? value : value + (((n * 53) % 7) - 3) * 0.02;

/** What it measured before: longer, or worn, where a new one went in then. */
const earlier = (value: number, loss: number, asNew: number, worn: number): number =>
  value + loss > asNew ? worn : value + loss;

/** Nobody reads bristle closer. */
const inTwentieths = (value: number): number => Math.round(value * 20) / 20;

/** Brooms that the story renews, by who does it: what had to be in their vans. */
export function broomsRenewed(
  sheets: readonly { tag: string; by: string; script?: SheetScript }[],
  hasSideBrooms: (tag: string) => boolean,
): { by: string; item: "main-broom" | "side-broom"; qty: number }[] {
  return sheets.flatMap(({ tag, by, script }) => {
    const isWorn = (reading: string, limit: number): boolean =>
      (script?.readings?.[reading] ?? []).some((value) => value < limit);
    return [
      ...(isWorn("main-broom-bristle", 2) ? [{ by, item: "main-broom" as const, qty: 1 }] : []),
      ...(isWorn("side-broom-bristle", 2.5) && hasSideBrooms(tag) ? [{ by, item: "side-broom" as const, qty: 2 }] : []),
    ];
  });
}
