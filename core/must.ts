/**
 * What the code knows to be there and the types cannot: an index within its array, a key just set, a row just written. Where
 * it is not, that is a fault of the code, and it stops here instead of going on with nothing.
 *
 * @throws {Error} when it is not there
 */
export function must<T>(value: T): NonNullable<T> {
  if (value === null || value === undefined) throw new Error("Something that must be there is not.");
  return value;
}
