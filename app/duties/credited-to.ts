import { coveredBy, type Plan } from "@core";

/** What a completion counts for, as ids of duties: what its sheet has earned, else all that its duty is said to contain. */
export function creditedTo(
  covering: readonly Pick<Plan, "id" | "covers">[],
): (done: { dutyId: string; credits: readonly string[] | null }) => readonly string[] {
  const covered = coveredBy(covering);
  return ({ dutyId, credits }) => credits ?? [dutyId, ...covered(dutyId)];
}
