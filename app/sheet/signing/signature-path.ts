/** The field that a signature is kept on. */
export const WIDTH = 560;
export const HEIGHT = 180;
const MARGIN = 8;
/** A dot is not blown up to fill the field. */
const MOST_ENLARGED = 1.2;

interface Point {
  x: number;
  y: number;
}

/** What was drawn on a pad of any size, as an SVG path in the middle of a 560 × 180 field; "" when nothing was. */
export function signaturePath(strokes: readonly (readonly Point[])[]): string {
  const points = strokes.flat();
  if (points.length === 0) return "";
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const scale = Math.min((WIDTH - 2 * MARGIN) / wide, (HEIGHT - 2 * MARGIN) / high, MOST_ENLARGED);
  const place = (value: number, from: number, size: number, field: number): string =>
    String(Math.round(((value - from) * scale + (field - size * scale) / 2) * 10) / 10);
  return strokes
    .map((stroke) =>
      stroke
        .map(({ x, y }, i) => `${i === 0 ? "M" : "L"}${place(x, left, wide, WIDTH)} ${place(y, top, high, HEIGHT)}`)
        .join(""),
    )
    .join("");
}
