import {
  lineChance,
  nowOrNext,
  pieceLine,
  type PieceSums,
  pieceSums,
  poolPieces,
  type WearValue,
} from "../../core/index";

/** What a year of the demo's worn parts costs by three ways of renewing them. Invented, and the same for the same seed. */
export interface YearCosts {
  nowOrNext: number;
  atTheLimit: number;
  everyYearly: number;
}

interface Kind {
  machines: number;
  asNew: number;
  limit: number;
  /** Loss an hour, and how much that differs from piece to piece. */
  loss: number;
  differs: number;
  /** Of a single reading. */
  scatter: number;
  hoursPerDay: number;
  lookedDays: number;
  /** Euros. */
  planned: number;
}

/** As the demo's sweepers and scrubbers wear, and are looked at. */
const KINDS: readonly Kind[] = [
  {
    machines: 4,
    asNew: 4,
    limit: 2,
    loss: 0.0125,
    differs: 0.0018,
    scatter: 0.04,
    hoursPerDay: 1.05,
    lookedDays: 13,
    planned: 125,
  },
  {
    machines: 6,
    asNew: 5,
    limit: 2.5,
    loss: 0.00714,
    differs: 0.0009,
    scatter: 0.04,
    hoursPerDay: 1.1,
    lookedDays: 13,
    planned: 108,
  },
  {
    machines: 6,
    asNew: 0.8,
    limit: 0.5,
    loss: 0.00025,
    differs: 0.00004,
    scatter: 0.008,
    hoursPerDay: 4,
    lookedDays: 25,
    planned: 173,
  },
];
const FAILURE = 200;
const VISIT = 90;
const YEAR = 365;
const YEARLY = 180;

interface Piece {
  /** Hours of the machine when it went in, less what it had run before the year began. */
  from: number;
  loss: number;
  values: Pick<WearValue, "use" | "value" | "confirmed">[];
}

/** Whether the piece is renewed at this look. */
type Rule = (now: {
  kind: Kind;
  piece: Piece;
  read: number;
  use: number;
  day: number;
  past: readonly PieceSums[];
}) => boolean;

const RULES: Record<keyof YearCosts, Rule> = {
  nowOrNext({ kind, piece, use, past }) {
    const sums = pieceSums(piece.values);
    const line = sums && pieceLine(sums, poolPieces([...past, sums]), "down");
    if (!line) return false;
    const next = use + kind.hoursPerDay * kind.lookedDays;
    const left = kind.limit - (line.level + line.slope * (use - line.meanAt));
    const share = Math.min(1, Math.max(0, left / (kind.limit - kind.asNew)));
    return (
      nowOrNext({
        chanceBeforeNext: lineChance(line, kind.limit, next),
        plannedCost: kind.planned,
        failureCost: kind.planned + FAILURE,
        extraVisitCost: VISIT,
        lostUseCost: kind.planned * share,
      }).advice === "now"
    );
  },
  atTheLimit: ({ kind, read }) => read < kind.limit,
  everyYearly: ({ kind, day }) => day <= YEARLY && YEARLY < day + kind.lookedDays,
};

/**
 * Works the year once by each rule, on the same pieces. A piece that passes its limit before it is renewed fails: the firm's
 * figures for that, and a new one at once. What is left of the pieces at the year's end is taken off.
 *
 * @param random from 0 to below 1; drawn anew for each rule from the same beginning
 */
export function wearYear(generator: () => () => number): YearCosts {
  const cost = (rule: Rule): number => {
    const random = generator();
    return KINDS.reduce((sum, kind) => sum + costOf(kind, rule, random), 0);
  };
  return {
    nowOrNext: cost(RULES.nowOrNext),
    atTheLimit: cost(RULES.atTheLimit),
    everyYearly: cost(RULES.everyYearly),
  };
}

function costOf(kind: Kind, rule: Rule, random: () => number): number {
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const life = (kind.asNew - kind.limit) / kind.loss;
  const draw = (from: number): Piece => ({
    from,
    loss: Math.max(kind.loss / 3, kind.loss + kind.differs * normal()),
    values: [],
  });
  const valueAt = (piece: Piece, use: number): number => kind.asNew - piece.loss * (use - piece.from);
  // Pieces of the year before, as every firm has some.
  const past: PieceSums[] = Array.from({ length: 6 }, () => {
    const piece = draw(0);
    const values = Array.from({ length: 8 }, (_, i) => {
      const use = (life * i) / 8;
      return { use, value: valueAt(piece, use) + kind.scatter * normal(), confirmed: false };
    });
    return pieceSums(values);
  }).filter((one) => one !== null);
  let cost = 0;
  for (let m = 0; m < kind.machines; m++) {
    // The same pieces and readings in the same order, whatever the rule does with them.
    const pieces = Array.from({ length: 12 }, () => draw(0).loss);
    const off = Array.from({ length: YEAR }, normal);
    let piece: Piece = { from: -random() * life * 0.9, loss: pieces.pop() ?? kind.loss, values: [] };
    const renew = (use: number): void => {
      const sums = pieceSums(piece.values);
      if (sums) past.push(sums);
      piece = { from: use, loss: pieces.pop() ?? kind.loss, values: [] };
    };
    for (let day = 1; day <= YEAR; day++) {
      const use = day * kind.hoursPerDay;
      if (valueAt(piece, use) < kind.limit) {
        cost += kind.planned + FAILURE + VISIT;
        renew(use);
      }
      if (day % kind.lookedDays !== 0) continue;
      const read = valueAt(piece, use) + kind.scatter * (off[day - 1] ?? 0);
      piece.values.push({ use, value: read, confirmed: false });
      if (!rule({ kind, piece, read, use, day, past })) continue;
      cost += kind.planned;
      renew(use);
    }
    const left = (valueAt(piece, YEAR * kind.hoursPerDay) - kind.limit) / (kind.asNew - kind.limit);
    cost -= kind.planned * Math.max(0, left);
  }
  return cost;
}
