import { readNumber } from "@core";

import { ownFormat } from "./number-format";

/** A figure as typed, in the person's own format where it could be meant in two ways; null when it is none. */
export function toNumber(text: string): number | null {
  const read = readNumber(text, ownFormat());
  if (read.kind === "ambiguous") return read.values[0];
  return read.kind === "number" ? read.value : null;
}
