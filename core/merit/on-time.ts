import { parseDay } from "../days/parse-day";
import { requireList, requireRecord } from "../inputs";
import { requireNotNegative } from "../numbers";
import { useShare } from "../stock/use-share";

/** Two-sided 95 % quantile of the standard normal distribution. */
const Z_95 = 1.959964;

/**
 * Share of duties that were done on time, with its 95 % interval (Wilson score, without a correction for continuity). A duty counts
 * once it is done, or its day and the days of grace have passed.
 *
 * @param input.today site-local day
 * @param input.graceDays whole days after the due day that still are on time; 0 when absent
 * @returns `n` 0: share 0, from 0 to 1
 * @throws CoreError `bad-date`
 * @example onTime({ due: [{ due: "2026-01-02", done: "2026-01-02" }], today: "2026-02-01" })
 * // => { share: 1, low: 0.2065, high: 1, n: 1 }
 */
export function onTime(input: {
  due: readonly { due: string; done: string | null }[];
  today: string;
  graceDays?: number;
}): { share: number; low: number; high: number; n: number } {
  const { due, today, graceDays = 0 } = requireRecord(input, "input");
  const now = parseDay(today, "today");
  requireNotNegative(graceDays, "graceDays");
  let [n, good] = [0, 0];
  requireList(due, "due").forEach((one, i) => {
    const path = `due[${i}]`;
    const { due: dueOn, done } = requireRecord(one, path);
    const until = parseDay(dueOn, `${path}.due`) + graceDays;
    const doneOn = done === null ? null : parseDay(done, `${path}.done`);
    if (doneOn === null && until >= now) return;
    n++;
    if (doneOn !== null && doneOn <= until) good++;
  });
  return n === 0 ? { share: 0, low: 0, high: 1, n } : { ...useShare(good, n, Z_95), n };
}
