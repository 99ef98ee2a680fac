/** A chance as people read it; nothing is certain that is foreseen. */
export function chanceWords(chance: number): string {
  if (chance < 0.005) return "under 1 %";
  if (chance > 0.995) return "over 99 %";
  return `${Math.round(chance * 100)} %`;
}
