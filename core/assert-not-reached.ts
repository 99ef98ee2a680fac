/** Closes an exhaustive switch: the compiler refuses the call while a case is missing. */
export function assertNotReached(value: never): never {
  throw new Error(`Unhandled case: ${JSON.stringify(value)}`);
}
