import { useState } from "react";
import { Link, type useFetcher } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { useDayWords } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { Notice } from "~/ui/notice";

import type { AheadDuty, AheadPage } from "./ahead.server";
import { placesText } from "./ahead-parts";
import { hoursWords } from "./cell-words";

/** Duties that fit into an address. */
const MOST_IN_ADDRESS = 60;
const SHOWN = 5;

/** What is selected comes to: hands-on time, what to take along, and the day to put it on. */
export function SelectionPanel({
  duties,
  takes,
  people,
  today,
  onClear,
  fetcher,
}: {
  duties: readonly (AheadDuty & { siteName: string })[];
  takes: AheadPage["takes"];
  people: readonly { id: string; name: string }[];
  today: string;
  onClear: () => void;
  fetcher: ReturnType<typeof useFetcher<FormAnswer>>;
}) {
  const say = useDayWords();
  const [all, setAll] = useState(false);
  const minutes = duties.reduce((sum, one) => sum + one.handsOn, 0);
  const parts = sumOf(duties, takes);
  const error = fetcher.data ? allFaults(answerTo(fetcher.data, fetcher.data.form)) : null;
  return (
    <section aria-labelledby="chosen" className="panel no-print mt-4 border-2 border-ink p-4">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="chosen" className="text-lg" aria-live="polite">
          {duties.length} {duties.length === 1 ? "duty" : "duties"},{" "}
          <span className="figure">{hoursWords(minutes)}</span> hands-on
        </h2>
        <button type="button" className="min-h-11 underline underline-offset-4" onClick={onClear}>
          Choose none
        </button>
      </div>
      <div className="grid gap-x-6 lg:grid-cols-[1fr_auto]">
        <div className="min-w-0">
          <ul className="mt-1 text-sm">
            {(all ? duties : duties.slice(0, SHOWN)).map((one) => (
              <li key={one.dutyId} className="wrap-anywhere">
                <Link to={`/duties/${one.dutyId}`}>{one.title}</Link> · {one.machineName}, {one.siteName}{" "}
                <span className="text-ink-soft">
                  {`${one.dueOn ? say(one.dueOn) : ""}${one.plannedOn ? ` → ${say(one.plannedOn)}` : ""}`}
                </span>
              </li>
            ))}
          </ul>
          {duties.length > SHOWN && (
            <button
              type="button"
              className="min-h-11 text-sm underline underline-offset-4"
              onClick={() => setAll(!all)}
            >
              {all ? "Show fewer" : `Show all ${duties.length}`}
            </button>
          )}
          <Disclosure title={<>What it takes along ({parts.length})</>} className="mt-1 text-sm">
            {duties.length <= MOST_IN_ADDRESS && (
              <p>
                <Link
                  to={`/stores/need?${new URLSearchParams([["days", "30"], ...duties.map((one): [string, string] => ["duty", one.dutyId])])}`}
                  className="inline-block min-h-8"
                >
                  What of it is short
                </Link>
              </p>
            )}
            {parts.length === 0 ? (
              <p>No materials are listed for these duties.</p>
            ) : (
              <ul className="columns-1 sm:columns-2">
                {parts.map((part) => (
                  <li key={`${part.item}/${part.unit}`}>
                    {part.name}{" "}
                    <span className="figure">
                      {part.qty} {part.unit}
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </Disclosure>
        </div>
        <div>
          {error && (
            <div className="mt-2">
              <Notice tone="problem">{error}</Notice>
            </div>
          )}
          <fetcher.Form method="post" className="mt-2 flex flex-wrap items-end gap-2">
            <input type="hidden" name="duties" value={placesText(duties)} />
            <div>
              <label htmlFor="plan-on" className="block text-sm font-semibold">
                Day
              </label>
              <input id="plan-on" name="on" type="date" className="field" defaultValue={today} required />
            </div>
            <div>
              <label htmlFor="plan-for" className="block text-sm font-semibold">
                For
              </label>
              <select id="plan-for" name="personId" className="field" defaultValue="">
                <option value="">Whoever goes</option>
                {people.map((person) => (
                  <option key={person.id} value={person.id}>
                    {person.name}
                  </option>
                ))}
              </select>
            </div>
            <button name="intent" value="put" className="btn btn-main">
              Put on this day
            </button>
            {duties.some((one) => one.plannedOn !== null) && (
              <button name="intent" value="take-off" className="btn" formNoValidate>
                Take off its day
              </button>
            )}
          </fetcher.Form>
        </div>
      </div>
    </section>
  );
}

/** Materials of all chosen duties, like with like. */
function sumOf(
  duties: readonly AheadDuty[],
  takes: AheadPage["takes"],
): { item: string; name: string; qty: number; unit: string }[] {
  const sums = new Map<string, { item: string; name: string; qty: number; unit: string }>();
  for (const duty of duties) {
    for (const one of takes[duty.procedureId] ?? []) {
      const key = `${one.item}/${one.unit}`;
      const sum = sums.get(key);
      if (sum) sum.qty += one.qty;
      else sums.set(key, { ...one });
    }
  }
  return [...sums.values()].sort((a, b) => a.name.localeCompare(b.name));
}
