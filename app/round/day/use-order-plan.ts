import type { DayPlan, DayProblem } from "@core";
import { wrap } from "comlink";
import { useEffect, useState } from "react";

import type { DayPlanner } from "./day.worker";

/** The day as it would be in another order, worked out in a web worker; null while it is, or when none is asked for. */
export function useOrderPlan(problem: DayProblem, order: readonly string[] | null): DayPlan | null {
  const [found, setFound] = useState<{ key: string; plan: DayPlan } | null>(null);
  const key = order?.join(" ") ?? null;
  useEffect(() => {
    if (key === null) return;
    const worker = new Worker(new URL("./day.worker.ts", import.meta.url), { type: "module" });
    wrap<DayPlanner>(worker)
      .inOrder(problem, key.split(" "))
      .then((plan) => setFound({ key, plan }))
      // Without a worker the order can still be kept: the server works out its times.
      .catch(() => undefined);
    return () => worker.terminate();
  }, [problem, key]);
  return found !== null && found.key === key ? found.plan : null;
}
