import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { floorExact, requireFinite, requirePositive } from "../numbers";

/** How a machine was found at a service. */
export type AsFound = "clean" | "fair" | "poor" | "failed";

/** From best to worst. */
export const AS_FOUND: readonly AsFound[] = ["clean", "fair", "poor", "failed"];
export const isAsFound = (value: unknown): value is AsFound => AS_FOUND.includes(value as AsFound);

/** Clean findings in a row, since the last change, before an interval grows. */
const ROW = 3;
const GROWN = 1.2;
const FACTORS: Readonly<Record<Exclude<AsFound, "clean">, number>> = { fair: 1, poor: 0.75, failed: 0.5 };

/**
 * A service interval by how the machine was found: the staircase of interval reviews (method of that name in ILAC-G24 / OIML D 10),
 * its factors ours. Only the latest finding changes the interval in force; those before it tell how long a row of clean ones is.
 *
 * @param input.interval in force, days
 * @param input.asFound oldest first
 * @param input.min and `max` bounds, days
 * @returns whole days, at least 1
 * @throws CoreError `bad-number`, `bad-value`, `out-of-range` when the bounds cross
 * @example tuneInterval({ interval: 10, asFound: ["clean", "clean", "clean"] }).interval // => 12
 */
export function tuneInterval(input: { interval: number; asFound: readonly AsFound[]; min?: number; max?: number }): {
  interval: number;
  because: string;
} {
  const { interval, asFound, min, max } = requireRecord(input, "input");
  requirePositive(interval, "interval");
  const least = min === undefined ? 1 : Math.max(1, requireFinite(min, "min"));
  const most = max === undefined ? Infinity : requireFinite(max, "max");
  if (most < least) throw new CoreError("out-of-range", "max", `max ${most} is below the shortest interval, ${least}.`);
  const { factor, row } = latestFactor(requireList(asFound, "asFound"));
  const whole = Math.max(1, floorExact(interval * factor));
  const stepped = factor > 1 ? Math.max(whole, floorExact(interval) + 1) : whole;
  const held = Math.min(most, Math.max(least, stepped));
  const last = asFound[asFound.length - 1];
  const found =
    last === undefined
      ? "Nothing was found yet"
      : last === "clean"
        ? `Clean, ${row === 1 ? "once" : `${row} times in a row`}${factor > 1 ? "" : ` of ${ROW}`}`
        : `Found ${last}`;
  const bound = held === stepped ? "" : `, held at ${held}`;
  return { interval: held, because: `${found}: ${interval} × ${factor} = ${stepped} days${bound}.` };
}

/** The factor of the latest finding, and the row of clean ones that it ends. */
function latestFactor(asFound: readonly AsFound[]): { factor: number; row: number } {
  let [factor, row, sinceChange] = [1, 0, 0];
  asFound.forEach((found, i) => {
    if (found === "clean") {
      row = sinceChange + 1;
      factor = row >= ROW ? GROWN : 1;
    } else {
      if (!Object.hasOwn(FACTORS, found))
        throw new CoreError("bad-value", `asFound[${i}]`, `asFound[${i}] must be clean, fair, poor or failed.`);
      row = 0;
      factor = FACTORS[found];
    }
    sinceChange = factor === 1 ? row : 0;
  });
  return { factor, row };
}
