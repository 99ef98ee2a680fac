import { lineValue, pieceSums, type UseLine, useOn, type WearPiece } from "@core";
import type { StoredLine, WearLineRow } from "@db";

/** What the chart of a part is drawn from; along it the use since its first value, or since it went in. */
export interface WearChartPoints {
  values: { x: number; value: number; stage: "found" | "left"; light: boolean }[];
  /** Pieces that were there before, from their own beginning. */
  earlier: { x: number; value: number }[][];
  /** The line with the band in which a single new value lies, from the first value on. */
  line: { x: number; fit: number; band: [number, number] }[];
  limit: number | null;
  visits: { x: number; on: string }[];
  nowX: number;
  /** The day that stands at 0, where it wears by days. */
  originOn: string;
}

type Row = Pick<
  WearLineRow,
  "limitAt" | "firstUse" | "lastUse" | "firstOn" | "useNow" | "rate" | "asOf" | "nextOn" | "secondOn" | "crossesTo"
> & { line: StoredLine | null };

const STEPS = 24;
/** Ghosts beyond the newest ones only make a tangle. */
const EARLIER = 4;

/** Where a piece's use is counted from. */
const originOf = (piece: WearPiece, use: UseLine, first: number): number =>
  piece.began === null ? first : Math.min(first, use.at(piece.began));

export function wearChartPoints(row: Row, pieces: readonly WearPiece[], use: UseLine): WearChartPoints {
  const current = pieces.at(-1);
  const origin = current ? originOf(current, use, row.firstUse) : row.firstUse;
  const visits = [row.nextOn, row.secondOn].flatMap((on) =>
    on === null ? [] : [{ on, x: Math.max(0, useOn(row, on) - origin) }],
  );
  const span = row.lastUse - row.firstUse;
  // To where it is surely past the limit, but not beyond twice what was observed; the visits are in sight.
  const sure = row.crossesTo === null ? Infinity : useOn(row, row.crossesTo);
  const end = Math.max(
    Math.min(sure, row.lastUse + Math.max(span, 1)),
    ...visits.slice(0, 1).map(({ x }) => x + origin),
    row.useNow,
  );
  const { line } = row;
  const weights = pieceSums(current?.values ?? [])?.weights ?? [];
  return {
    values: (current?.values ?? []).map(({ use: at, value, stage }, i) => ({
      ...{ x: at - origin, value, stage, light: (weights[i] ?? 1) < 1 },
    })),
    earlier: pieces
      .slice(0, -1)
      .filter((one) => one.values.length > 1)
      .slice(-EARLIER)
      .map((piece) => {
        const from = originOf(piece, use, piece.values[0]?.use ?? 0);
        return piece.values.map(({ use: at, value }) => ({ x: at - from, value }));
      }),
    line: line
      ? Array.from({ length: STEPS + 1 }, (_, i) => {
          const at = row.firstUse + ((end - row.firstUse) * i) / STEPS;
          const { value, low, high } = lineValue(line, at);
          return { x: at - origin, fit: value, band: [low, high] as [number, number] };
        })
      : [],
    limit: row.limitAt,
    visits: visits.filter(({ x }) => x <= (end - origin) * 1.02),
    nowX: row.useNow - origin,
    originOn: row.firstOn,
  };
}
