import { CoreError } from "./errors";

/** Slack for products such as 90 × 0.7, which binary floating point puts just below the exact decimal result. */
const ROUNDING_SLACK = 1e-9;

/** Rounds down, treating a value within 1e-9 below a whole number as that number. */
export function floorExact(value: number): number {
  return Math.floor(value + ROUNDING_SLACK);
}

/** Rounds up, treating a value within 1e-9 above a whole number as that number. */
export function ceilExact(value: number): number {
  return Math.ceil(value - ROUNDING_SLACK);
}

/** Whether a running sum has reached a target, allowing for the rounding of the additions that made it. */
export function reached(sum: number, target: number): boolean {
  return sum >= target - ROUNDING_SLACK * Math.max(1, Math.abs(target));
}

/** A number for a sentence: at most two decimals, none when whole. */
export function plainNumber(value: number): string {
  return String(Math.round(value * 100) / 100);
}

/** No quantity of this work is larger; beyond it sums and products lose their meaning. */
const LARGEST = 1e15;

/** @throws CoreError unless `value` is a finite number of a size that can be */
export function requireFinite(value: unknown, path: string): number {
  if (typeof value !== "number" || !Number.isFinite(value)) {
    throw new CoreError("bad-number", path, `${path} must be a finite number, not ${said(value)}.`);
  }
  if (Math.abs(value) > LARGEST)
    throw new CoreError("out-of-range", path, `${path} is ${value}, more than there is of anything.`);
  return value;
}

/** A value in a sentence, whatever it is: not everything can be made a text. */
function said(value: unknown): string {
  if (value === null || value === undefined) return "nothing";
  if (typeof value === "number" || typeof value === "boolean" || typeof value === "string") return String(value);
  return Array.isArray(value) ? "a list" : `a ${typeof value}`;
}

/** @throws CoreError unless `value` is a finite number above zero */
export function requirePositive(value: unknown, path: string): number {
  const number = requireFinite(value, path);
  if (number <= 0) throw new CoreError("bad-number", path, `${path} must be greater than zero, not ${number}.`);
  return number;
}

/** @throws CoreError unless `value` is a finite number, zero or more */
export function requireNotNegative(value: unknown, path: string): number {
  const number = requireFinite(value, path);
  if (number < 0) throw new CoreError("bad-number", path, `${path} must not be negative, but is ${number}.`);
  return number;
}

/** @throws CoreError unless `value` is a finite number from 0 to 1 */
export function requireShare(value: unknown, path: string): number {
  const number = requireFinite(value, path);
  if (number < 0 || number > 1)
    throw new CoreError("out-of-range", path, `${path} must lie between 0 and 1, not ${number}.`);
  return number;
}

/** @throws CoreError unless `value` is a whole number above zero */
export function requirePositiveWhole(value: unknown, path: string): number {
  const number = requirePositive(value, path);
  if (!Number.isInteger(number))
    throw new CoreError("bad-number", path, `${path} must be a whole number, not ${number}.`);
  return number;
}
