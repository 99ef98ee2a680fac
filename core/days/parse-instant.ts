import { CoreError } from "../errors";

const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})$/;

/**
 * Milliseconds since 1970 of an ISO 8601 instant.
 *
 * @throws CoreError `bad-instant` without an offset: a local time means another moment on another device
 */
export function instantMs(text: string, path: string): number {
  const ms = INSTANT.test(text) ? Date.parse(text) : NaN;
  if (Number.isNaN(ms))
    throw new CoreError(
      "bad-instant",
      path,
      `${path} must be an instant with its offset, such as 2026-02-28T09:30:00Z, not "${text}".`,
    );
  return ms;
}
