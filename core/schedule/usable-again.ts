import { instantMs } from "../days/parse-instant";
import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";

/** After the work a machine is not used: for so many hours, nor before another procedure was worked on it; both hold when both are given. */
export interface NotUntil {
  hours?: number;
  /** Id of the procedure, or of a duty of the machine's own. */
  done?: string;
}

export interface UsableAgain {
  /** Instant from which it may be used; null while what has to be done first is not done. */
  from: string | null;
  /** What has to be done first, while it is not. */
  waitsFor: string | null;
}

/** A century. */
const MOST_HOURS = 876_600;

/**
 * When a machine may be used again after work that forbids it for a while: parts that dry overnight, a tank that stays
 * drained over the weekend.
 *
 * @param rule hours counted from the end of the work, and what has to be done first
 * @param endedAt instant at which the work ended
 * @param done instants at which what has to be done first was done; what was done before `endedAt` does not count
 * @throws CoreError `bad-instant` for an instant without its offset, `bad-number` for hours that are no length of time
 */
export function usableAgain(rule: NotUntil, endedAt: string, done: readonly string[]): UsableAgain {
  requireRecord(rule, "rule");
  const ended = instantMs(endedAt, "endedAt");
  const hours = rule.hours ?? 0;
  if (!(typeof hours === "number" && hours >= 0 && hours <= MOST_HOURS))
    throw new CoreError("bad-number", "rule.hours", `The hours must be from 0 to ${MOST_HOURS}, not ${hours}.`);
  const waitsFor = rule.done ?? null;
  const after = requireList(done, "done")
    .map((at, i) => instantMs(at, `done[${i}]`))
    .filter((at) => at >= ended);
  if (waitsFor !== null && after.length === 0) return { from: null, waitsFor: requireText(waitsFor, "rule.done") };
  const rested = ended + hours * 3_600_000;
  const from = waitsFor === null ? rested : Math.max(rested, Math.min(...after));
  return { from: new Date(from).toISOString(), waitsFor: null };
}
