import { addDays } from "@core";

import { DAY } from "~/kit/day-pattern";
import { firmDay } from "~/kit/firm-day.server";

import type { CostBy } from "./costs.server";

const GROUPS: readonly CostBy[] = ["machine", "site", "family"];

/** Span and grouping of a costs view from its address; the last year by site when nothing is said. */
export async function costSpan(params: URLSearchParams, now: Date): Promise<{ by: CostBy; from: string; to: string }> {
  const { on: today } = await firmDay(now);
  const day = (name: string, otherwise: string): string =>
    DAY.test(params.get(name) ?? "") ? params.get(name)! : otherwise;
  const to = day("to", today);
  return { by: GROUPS.find((one) => one === params.get("by")) ?? "site", from: day("from", addDays(to, -365)), to };
}
