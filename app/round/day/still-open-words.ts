import { partsInWords } from "~/sheet/parts-in-words";

import type { StillOpen } from "./still-open.server";

/** Of one open sheet, what would be left behind with it. */
export function leftBehind({
  running,
  off,
  locked,
  settled,
  total,
}: Omit<StillOpen, "sheetId" | "machineName" | "title">): string {
  const parts = [
    ...running.map((title) => `the clock of “${title}” runs`),
    ...(off.length > 0 ? [`still off: ${off.map(partsInWords).join(", ")}`] : []),
    ...(locked ? ["a lock is on"] : []),
  ];
  return [...parts, settled === total ? "not signed" : `${settled} of ${total} steps settled`].join("; ");
}

/** Why one does not simply leave. */
export const stillOpenWords = (open: readonly StillOpen[]): string =>
  `Before you leave: ${open.map((one) => `${one.machineName}, ${one.title} (${leftBehind(one)})`).join("; ")}. Sign, end or hand them over, or leave all the same.`;
