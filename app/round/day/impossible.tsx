import { changeInWords, clockTime, type DayPlan, type DayProblem } from "@core";
import { useMemo } from "react";
import { Form } from "react-router";

import { inHours } from "~/kit/days/day-time";
import { inPercent } from "~/kit/in-percent";
import { Section } from "~/ui/section";

import type { DayView } from "./day.server";
import { spreadsOf } from "./spreads";
import { useDayChanges } from "./use-day-changes";

/** A day that does not hold: what collides, and the smallest changes that would make it hold. */
export function Impossible({
  plan,
  problem,
  holds,
  chance,
  duties,
  hours,
  names,
  mayChange,
  dangers,
}: {
  plan: DayPlan;
  /** Sites and ferries that it may come too late for. */
  dangers: readonly string[];
  problem: DayProblem;
  /** Share of days on which it holds. */
  holds: number | null;
  /** How often it has to. */
  chance: number;
  duties: DayView["duties"];
  /** Of the day, in minutes. */
  hours: { start: number; end: number };
  names: { job: (id: string) => string; site: (id: string) => string; inText: (sentence: string) => string };
  mayChange: boolean;
}) {
  const how = useMemo(() => ({ chance, spread: spreadsOf(duties) }), [chance, duties]);
  const changes = useDayChanges(problem, plan, how);
  const inTime = plan.lateMinutes === 0 && plan.overtime === 0;
  return (
    <Section
      id="collides"
      title={
        <>
          <span aria-hidden="true">! </span>
          {inTime ? "This day is tight" : "This day does not hold"}
        </>
      }
      panel
      className="mb-5 border-2 border-ink"
    >
      <ul className="mt-1 list-disc pl-5">
        {inTime && holds !== null && (
          <li>
            It is in time in <span className="figure">{inPercent(holds)}</span> of cases;{" "}
            <span className="figure">{inPercent(chance)}</span> are wanted.
          </li>
        )}
        {[...dangers, ...plan.conflicts].map((sentence) => (
          <li key={sentence} className="wrap-anywhere">
            {names.inText(sentence)}
          </li>
        ))}
        {plan.overtime > 0 && (
          <li>
            It ends at <span className="figure">{clockTime(plan.endAt)}</span>, {inHours(plan.overtime)} after{" "}
            <span className="figure">{clockTime(hours.end)}</span>.
          </li>
        )}
      </ul>
      <div role="status">
        {changes === null && <p className="mt-2">Looking for what would make it hold…</p>}
        {changes?.length === 0 && (
          <p className="mt-2">No single change is enough. Take off what can wait, from the site that is late first.</p>
        )}
        {changes && changes.length > 0 && (
          <>
            <h3 className="mt-3 text-base">What would make it hold</h3>
            <ul className="mt-1 space-y-2">
              {changes.map((change) => (
                <li key={change.kind} className="flex flex-wrap items-center gap-3">
                  <span className="wrap-anywhere">{changeInWords(change, names)}</span>
                  {mayChange && change.kind !== "leave-out" && (
                    <Form method="post">
                      <input
                        type="hidden"
                        name="start"
                        value={clockTime(change.kind === "start-earlier" ? change.startAt : hours.start)}
                      />
                      <input
                        type="hidden"
                        name="end"
                        value={clockTime(change.kind === "stay-longer" ? change.endBy : hours.end)}
                      />
                      <input
                        type="hidden"
                        name="technicians"
                        value={change.kind === "another-technician" ? change.technicians : problem.technicians}
                      />
                      <button className="btn" name="intent" value="hours">
                        {
                          {
                            "start-earlier": "Start then",
                            "stay-longer": "Be back then",
                            "another-technician": "Go together",
                          }[change.kind]
                        }
                      </button>
                    </Form>
                  )}
                  {change.kind === "leave-out" && mayChange && (
                    <Form method="post">
                      <input type="hidden" name="duty" value={change.job} />
                      <button className="btn" name="intent" value="take-off">
                        Leave it out
                      </button>
                    </Form>
                  )}
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </Section>
  );
}
