import { inspect } from "node:util";

import { CoreError } from "../errors";

export type Call = (...args: never[]) => unknown;

const BAD: readonly unknown[] = [
  null,
  undefined,
  7,
  -1,
  1.5,
  NaN,
  Infinity,
  1e300,
  "",
  "7",
  true,
  [],
  {},
  [null],
  [NaN],
  [[]],
];

/** Each place in a value, with a way to put something else there. */
function* places(value: unknown, path: string): Generator<{ path: string; put: (bad: unknown) => unknown }> {
  yield { path, put: (bad) => bad };
  if (value === null || typeof value !== "object") return;
  for (const [key, inner] of Object.entries(value))
    for (const place of places(inner, `${path}.${key}`))
      yield {
        path: place.path,
        put: (bad) => {
          const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<string, unknown>;
          copy[key] = place.put(bad);
          return copy;
        },
      };
}

const holdsNaN = (value: unknown): boolean =>
  typeof value === "number"
    ? value !== value
    : value !== null && typeof value === "object" && Object.values(value).some(holdsNaN);

/** What a function does with bad values, each in the place of every value, that is neither an answer nor an error that names where. */
export function faultsOf(call: Call, args: readonly unknown[]): string[] {
  const faults: string[] = [];
  for (const { path, put } of places(args, "args")) {
    if (path === "args") continue;
    for (const bad of BAD) {
      try {
        const answer = call(...(put(bad) as never[]));
        if (holdsNaN(answer)) faults.push(`${path} = ${inspect(bad)}: NaN in the answer`);
      } catch (error) {
        if (!(error instanceof CoreError)) faults.push(`${path} = ${inspect(bad)}: ${String(error)}`);
        else if (error.path === "" || error.message === "") faults.push(`${path}: no path or words`);
      }
    }
  }
  return faults;
}
