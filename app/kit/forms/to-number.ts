/** A figure as typed, decimal comma or point; null when it is none. */
export function toNumber(text: string): number | null {
  const trimmed = text.trim().replace(",", ".");
  if (trimmed === "" || !/^[-+]?\d*\.?\d+$/.test(trimmed)) return null;
  return Number(trimmed);
}
