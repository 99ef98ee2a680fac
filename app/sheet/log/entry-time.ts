/** Differences that a person does not notice say nothing of a clock. */
const NOTICED_MS = 2_000;

/** An entry's time: never before the last of its sheet; one that nobody can vouch for says so. */
export function timeBehind(
  now: { at: number; certain: boolean },
  lastOfSheet: number,
): { at: string; uncertain?: true } {
  const at = Math.max(now.at, lastOfSheet + 1);
  const certain = now.certain && at - now.at <= NOTICED_MS;
  return { at: new Date(at).toISOString(), ...(certain ? {} : { uncertain: true }) };
}

/**
 * An entry whose time the server did not take, with the right one: the time that was told first stays readable in it.
 *
 * @param at milliseconds since 1970, by the server's clock
 * @returns null when that is the time it has: only the clock's owner can help then
 */
export function restamped<Entry extends { at: string; deviceAt?: string | undefined }>(
  entry: Entry,
  at: number,
): (Entry & { uncertain: true; deviceAt: string }) | null {
  if (Math.abs(Date.parse(entry.at) - at) < NOTICED_MS) return null;
  return { ...entry, at: new Date(at).toISOString(), uncertain: true, deviceAt: entry.deviceAt ?? entry.at };
}
