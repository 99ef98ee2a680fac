/** A quantity as the columns keep it: thousandths. */
export function exactQty(qty: number): number {
  return Math.round(qty * 1000) / 1000;
}
