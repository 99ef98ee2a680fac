/** What is called exactly so, in whatever letters; where nothing is, all that was found. */
export function exactFirst<Row>(found: readonly Row[], text: string, called: (row: Row) => string): readonly Row[] {
  const wanted = text.trim().toLowerCase();
  const exact = found.filter((row) => called(row).toLowerCase() === wanted);
  return exact.length > 0 ? exact : found;
}
