import type { DayChange, DayPlan, DayProblem } from "@core";
import { wrap } from "comlink";
import { useEffect, useState } from "react";

import type { DayPlanner } from "./day.worker";

/** Smallest changes that make a day hold, looked for in a web worker; null while looking. */
export function useDayChanges(problem: DayProblem, plan: DayPlan | null): DayChange[] | null {
  const [found, setFound] = useState<{ plan: DayPlan; changes: DayChange[] } | null>(null);
  useEffect(() => {
    if (!plan || (plan.lateMinutes === 0 && plan.overtime === 0)) return;
    const worker = new Worker(new URL("./day.worker.ts", import.meta.url), { type: "module" });
    wrap<DayPlanner>(worker)
      .changes(problem, plan)
      .then(
        (changes) => setFound({ plan, changes }),
        () => setFound({ plan, changes: [] }),
      );
    return () => worker.terminate();
  }, [problem, plan]);
  return found?.plan === plan ? found.changes : null;
}
