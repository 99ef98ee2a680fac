/** How many of what: "2 × pan"; one of a kind goes without its number. */
export const partsInWords = ({ item, count }: { item: string; count: number }): string =>
  count === 1 ? item : `${count} × ${item}`;

/** What a way on the bench is called. */
export const wayName = (path: string): string => path.replaceAll("-", " ");
