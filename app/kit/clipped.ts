/** Words on one line, cut where they are longer. */
export function clipped(words: string, most: number): string {
  const line = words.replace(/\s+/g, " ").trim();
  return line.length <= most ? line : `${line.slice(0, most - 1).trimEnd()}…`;
}
