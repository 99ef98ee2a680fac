/** A part and where it is; one that has a single place is called like it. */
export const placeName = (part: string, place: string): string =>
  part.toLowerCase() === place.toLowerCase() ? part : `${part}: ${place}`;
