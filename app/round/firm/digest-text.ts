/** What nobody has looked at, as a lead reads it in the morning. */
export interface Digest {
  overdue: Line[];
  hardStops: Line[];
  unsafe: Line[];
  majors: Line[];
}
interface Line {
  what: string;
  where: string;
  when: string;
}

export const isEmpty = (digest: Digest): boolean => Object.values(digest).every((lines: Line[]) => lines.length === 0);

const PARTS = [
  ["unsafe", "Out of service as unsafe"],
  ["hardStops", "Hard stop by tomorrow, on nobody's day"],
  ["majors", "Major, left open, without a day"],
  ["overdue", "Overdue, on nobody's day"],
] as const;
/** So many of each are named; the rest is counted. */
const MOST_NAMED = 10;

export function digestText(digest: Digest, name: string, link: string): string {
  const parts = PARTS.flatMap(([part, title]) => {
    const lines = digest[part];
    if (lines.length === 0) return [];
    const rest = lines.length - MOST_NAMED;
    return [
      "",
      `${title}: ${lines.length}`,
      ...lines.slice(0, MOST_NAMED).map(({ what, where, when }) => `- ${what}, ${where}, ${when}`),
      ...(rest > 0 ? [`and ${rest} more`] : []),
    ];
  });
  return [`Good morning ${name},`, "", "nobody has taken these up yet.", ...parts, "", link].join("\n").trimEnd();
}
