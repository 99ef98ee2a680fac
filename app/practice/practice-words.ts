import type { PracticeRunRow } from "@db";

/** What a practice came to, in few words. */
export function outcomeWords({
  finishedAt,
  passed,
  isNew,
  result,
}: Pick<PracticeRunRow, "finishedAt" | "passed" | "isNew" | "result">): string {
  if (finishedAt === null || result === null) return "not finished";
  const parts = [
    passed ? "passed" : result.isSolved ? "solved, not passed" : "not solved",
    ...(result.unsafe.length > 0 ? [`${result.unsafe.length} unsafe`] : []),
    ...(result.forgotten.length > 0 ? [`${result.forgotten.length} forgotten`] : []),
    ...(isNew ? [] : ["the same machine again"]),
  ];
  return parts.join(", ");
}
