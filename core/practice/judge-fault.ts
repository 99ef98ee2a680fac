import type { FaultGuide } from "../faults/guide";
import { byTheGuide } from "./best-way";
import type { HiddenFault } from "./draw-fault";
import { FaultPractice, type PracticeAct } from "./fault-practice";

/** So many times what the guide takes is still good work. Our choice. */
export const GOOD_TIMES = 2;

/** What a practice came to. */
export interface PracticeResult {
  /** Minutes of the machine's time, and those of the best way known. */
  minutes: number;
  bestMinutes: number;
  unsafe: string[];
  forgotten: string[];
  isSolved: boolean;
  /** Solved, nothing unsafe, nothing forgotten, in at most twice the best way's minutes. */
  isPassed: boolean;
}

/** Nothing but the seed's machine and what was done count. */
export function judgeFault(guide: FaultGuide, fault: HiddenFault, acts: readonly PracticeAct[]): PracticeResult {
  const { minutes, unsafe, forgotten, isSolved } = new FaultPractice(guide, fault, acts);
  return judged({ minutes, unsafe, forgotten, isSolved }, byTheGuide(guide, fault).practice.minutes);
}

/** Whether it is passed, of a practice on a fault as of one on a whole sheet. */
export function judged(
  one: { minutes: number; unsafe: readonly string[]; forgotten: readonly string[]; isSolved: boolean },
  bestMinutes: number,
): PracticeResult {
  return {
    minutes: one.minutes,
    bestMinutes,
    unsafe: [...one.unsafe],
    forgotten: [...one.forgotten],
    isSolved: one.isSolved,
    isPassed:
      one.isSolved &&
      one.unsafe.length === 0 &&
      one.forgotten.length === 0 &&
      one.minutes <= GOOD_TIMES * bestMinutes + 1e-9,
  };
}
