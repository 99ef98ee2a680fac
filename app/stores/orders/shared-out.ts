import type { OrderLine } from "./orders.server";

/** What is promised of a code, on the lines that ask for it, the first ones first. */
export function sharedOut(
  lines: readonly OrderLine[],
  promised: Readonly<Record<string, number>>,
): Record<string, number> {
  const left = { ...promised };
  return Object.fromEntries(
    lines.map((line) => {
      const packs = Math.min(line.packs, left[line.orderCode] ?? 0);
      left[line.orderCode] = (left[line.orderCode] ?? 0) - packs;
      return [line.id, packs];
    }),
  );
}
