import type { DayChange, DayPlan, DayProblem } from "@core";
import { wrap } from "comlink";
import { useEffect, useState } from "react";

import type { DayPlanner, HoldsHow } from "./day.worker";

/** Smallest changes that make a day hold, looked for in a web worker; null while looking. */
export function useDayChanges(problem: DayProblem, plan: DayPlan, how: HoldsHow): DayChange[] | null {
  const [found, setFound] = useState<{ plan: DayPlan; changes: DayChange[] } | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("./day.worker.ts", import.meta.url), { type: "module" });
    wrap<DayPlanner>(worker)
      .changes(problem, plan, how)
      .then(
        (changes) => setFound({ plan, changes }),
        () => setFound({ plan, changes: [] }),
      );
    return () => worker.terminate();
  }, [problem, plan, how]);
  return found?.plan === plan ? found.changes : null;
}
