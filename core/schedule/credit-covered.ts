import type { Completion, Plan } from "./types";

/** Everything that each plan covers, and what that covers, without the plan itself. */
export function coveredBy(plans: readonly Pick<Plan, "id" | "covers">[]): (id: string) => readonly string[] {
  const covers = new Map(plans.map((plan) => [plan.id, plan.covers ?? []]));
  const reachable = new Map<string, string[]>();
  return (id) => {
    const known = reachable.get(id);
    if (known) return known;
    const seen = new Set<string>([id]);
    const queue = [...(covers.get(id) ?? [])];
    for (let next = queue.pop(); next !== undefined; next = queue.pop()) {
      if (seen.has(next)) continue;
      seen.add(next);
      queue.push(...(covers.get(next) ?? []));
    }
    seen.delete(id);
    const found = [...seen];
    reachable.set(id, found);
    return found;
  };
}

/**
 * Completions with the work of each plan credited to every plan it covers, transitively, meters included: a yearly
 * service that covers the monthly one, which covers the weekly one, counts as all three.
 *
 * @param plans all plans of one machine
 * @returns the given completions, followed by the credited copies
 */
export function creditCovered(
  plans: readonly Pick<Plan, "id" | "covers">[],
  completions: readonly Completion[],
): Completion[] {
  const covered = coveredBy(plans);
  return [
    ...completions,
    ...completions.flatMap((done) => covered(done.planId).map((planId) => ({ ...done, planId }))),
  ];
}
