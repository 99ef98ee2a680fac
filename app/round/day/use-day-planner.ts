import type { DayPlan, DayProblem } from "@core";
import { proxy, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";

import type { DayPlanner } from "./day.worker";

export type Planning =
  | { status: "idle" }
  | { status: "searching"; best: DayPlan | null }
  | { status: "done"; plan: DayPlan }
  | { status: "failed"; message: string };

/** Plans a day in a web worker: the best plan so far while it runs, to be taken early or left to finish. */
export function useDayPlanner(onDone: (plan: DayPlan) => void): {
  planning: Planning;
  start: (problem: DayProblem) => void;
  take: () => void;
} {
  const [planning, setPlanning] = useState<Planning>({ status: "idle" });
  const worker = useRef<Worker | null>(null);
  const best = useRef<DayPlan | null>(null);
  const done = useRef(onDone);
  useEffect(() => {
    done.current = onDone;
  });
  useEffect(() => () => worker.current?.terminate(), []);

  const finish = (plan: DayPlan): void => {
    worker.current?.terminate();
    worker.current = null;
    setPlanning({ status: "done", plan });
    done.current(plan);
  };
  return {
    planning,
    start(problem) {
      worker.current?.terminate();
      best.current = null;
      const own = new Worker(new URL("./day.worker.ts", import.meta.url), { type: "module" });
      worker.current = own;
      setPlanning({ status: "searching", best: null });
      wrap<DayPlanner>(own)
        .plan(
          problem,
          proxy((plan) => {
            if (worker.current !== own) return;
            best.current = plan;
            setPlanning({ status: "searching", best: plan });
          }),
        )
        .then(
          (plan) => worker.current === own && finish(plan),
          (error: unknown) => {
            if (worker.current !== own) return;
            worker.current = null;
            setPlanning({ status: "failed", message: (error as Error).message });
          },
        );
    },
    /** Takes the best so far and stops looking. */
    take() {
      if (best.current) finish(best.current);
    },
  };
}
