/** A value that tells how far a piece is worn. */
export interface WearValue {
  /** Use by then, in what it wears by. */
  use: number;
  /** Instant, ms. */
  at: number;
  value: number;
  /** As found, or as it was left after an adjustment or with a new piece. */
  stage: "found" | "left";
  /** It looked wrong, and whoever read it said that it is right. */
  confirmed: boolean;
}

/** A line of wear: one piece from when it went in, or from an adjustment, until the next. */
export interface WearPiece<Value extends WearValue = WearValue> {
  /** Null: in there before anything was logged. */
  began: number | null;
  /** What it began with: a new piece (or its next side), or an adjustment of the old one. */
  by: "piece" | "adjustment" | null;
  /** Null while it is in use. */
  ended: number | null;
  values: Value[];
}

/**
 * Values of a slot parted into lines. A new piece begins a new one, and so does what was left after an adjustment: the value as
 * left is its first, the value as found the last of the line before. With several of one instant, what was found comes before the
 * new piece, and what was left after it.
 *
 * @param values of one reading, in any order
 * @param fitted instants (ms) at which a new piece went in, or its next side
 * @returns in order of time; the last one is in use, and without values when nothing was measured since
 */
export function wearPieces<Value extends WearValue>(
  values: readonly Value[],
  fitted: readonly number[],
): WearPiece<Value>[] {
  const rank = { found: 0, fit: 1, left: 2 };
  const happened = [
    ...fitted.map((at) => ({ at, kind: "fit" as const, value: null })),
    ...values.map((value) => ({ at: value.at, kind: value.stage, value })),
  ].sort((a, b) => a.at - b.at || rank[a.kind] - rank[b.kind]);
  let piece: WearPiece<Value> = { began: null, by: null, ended: null, values: [] };
  const pieces = [piece];
  const begin = (at: number, by: "piece" | "adjustment"): void => {
    piece.ended = at;
    piece = { began: at, by, ended: null, values: [] };
    pieces.push(piece);
  };
  for (const { at, kind, value } of happened) {
    if (kind === "fit") begin(at, "piece");
    // The first value of a new piece is as it was left, too: nothing was adjusted since.
    else if (kind === "left" && piece.values.some((one) => one.stage === "found")) begin(at, "adjustment");
    if (value) piece.values.push(value);
  }
  return pieces.filter((one) => one.began !== null || one.values.length > 0);
}
