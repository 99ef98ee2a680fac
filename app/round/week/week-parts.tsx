import { clockTime, type DayFigures } from "@core";
import { Form, Link } from "react-router";

import { dayInWords, inHours, minutesOf } from "~/kit/days/day-time";
import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { inPercent } from "~/kit/in-percent";
import { FIGURES_HOLD, HOLDS_IN } from "~/round/day/day-summary";
import { Disclosure } from "~/ui/disclosure";
import { Seen } from "~/ui/seen";
import { Why } from "~/ui/why";

import type { Route } from "./+types/week.route";
import { BREAK_ROWS, typedBreak } from "./break-fields";
import type { WeekProposal } from "./propose-week.server";

type Data = Route.ComponentProps["loaderData"];

/** How often a proposed day has to hold. */
export function Chance({ chance, answer }: { chance: number; answer: FormAnswer | undefined }) {
  const own = answerTo(answer, "chance");
  return (
    <Disclosure
      open={own.refused}
      title={
        <>
          A proposed day holds in at least <span className="figure">{inPercent(chance)}</span> of cases
        </>
      }
      className="mb-4"
      titleClass="text-sm"
    >
      <Form method="post" className="mt-1 flex flex-wrap items-end gap-3">
        <div>
          <label htmlFor="percent" className="block text-sm font-semibold">
            Percent of cases
          </label>
          <input
            id="percent"
            name="percent"
            inputMode="numeric"
            defaultValue={typed(own, "percent") ?? String(Math.round(100 * chance))}
            className="field figure w-24"
          />
        </div>
        <button className="btn" name="intent" value="chance">
          Save
        </button>
      </Form>
      <Why
        summary="What these rest on"
        because={[
          FIGURES_HOLD,
          HOLDS_IN,
          "Not planned yet: the typical hands-on minutes of its duties added up, without waits and ways.",
        ]}
      />
    </Disclosure>
  );
}

/** Seven days of one person. */
export function WeekOfPerson({
  days,
  planned,
  person,
  proposal,
}: {
  days: Data["days"];
  planned: Data["planned"];
  person: Data["people"][number];
  proposal: WeekProposal | null;
}) {
  const [from, to] = [minutesOf(person.dayFrom), minutesOf(person.dayTo)];
  const share = (minute: number): number => Math.max(0, Math.min(100, (100 * (minute - from)) / (to - from)));
  return (
    <ol className="mt-2 grid gap-1 sm:grid-cols-7">
      {days.map((day, d) => {
        const cell = planned.find((one) => one.person === person.id && one.day === day);
        const proposed = proposal?.days.find((one) => one.person === person.id && one.day === d);
        const before = cell?.figures ? share(cell.figures.backAt) : 0;
        return (
          <li key={day} className="min-w-0 bg-sunken p-2 text-sm">
            <Link
              to={`/round/day?${new URLSearchParams({ on: day, for: person.id })}`}
              className="inline-block min-h-6 font-semibold"
            >
              {dayInWords(day).replace(/^(\w{3})\w*/, "$1")}
            </Link>
            <span className="mt-1 block h-2 border border-ink-soft bg-surface" aria-hidden="true">
              <span className="inline-block h-full bg-fill align-top" style={{ width: `${before}%` }} />
              <span
                className="hatched inline-block h-full align-top text-ink"
                style={{ width: `${proposed ? Math.max(0, share(proposed.figures.backAt) - before) : 0}%` }}
              />
            </span>
            {cell && (
              <p className="text-ink-soft">
                <span className="figure">{cell.duties}</span> on it
                {cell.figures ? ":" : `, not planned yet: ${inHours(cell.minutes)} hands-on, typical`}
              </p>
            )}
            {cell?.figures && <Figures figures={cell.figures} />}
            {proposed && <Proposed day={proposed} />}
            {proposal?.blocked.some((one) => one.person === person.id && one.day === d) && (
              <p className="mt-1">What is on it does not hold: nothing is put here.</p>
            )}
          </li>
        );
      })}
    </ol>
  );
}

/** "7 h 59" where there is little room. */
const shortly = (minutes: number): string => inHours(minutes).replace(/^(\d+ h \d+) min$/, "$1");

/** A day's own figures, as its page has them. */
function Figures({ figures }: { figures: DayFigures }) {
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-2 whitespace-nowrap">
      {[
        ["Back at", clockTime(figures.backAt)],
        ["On site", shortly(figures.onSite)],
        ["On the way", shortly(figures.way)],
        ["Waiting", figures.waiting >= 1 ? shortly(figures.waiting) : ""],
        ["Breaks", figures.breaks ? shortly(figures.breaks) : ""],
        ["Holds in", inPercent(figures.holds)],
      ].map(
        ([name, value]) =>
          value !== "" && (
            <div key={name} className="contents">
              <dt className="text-ink-soft">{name}</dt>
              <dd className="figure">{value}</dd>
            </div>
          ),
      )}
    </dl>
  );
}

/** What would be put on a day: by site, every duty named on request. */
function Proposed({ day }: { day: WeekProposal["days"][number] }) {
  const count = day.stops.reduce((sum, stop) => sum + stop.duties.length, 0);
  return (
    <div className="mt-1 border-t border-line pt-1">
      <p className="font-semibold">
        + {count} {count === 1 ? "duty" : "duties"}, then
      </p>
      <Figures figures={day.figures} />
      <Disclosure title={day.stops.map((stop) => stop.name).join(", ")} titleClass="text-left text-sm wrap-anywhere">
        <ul className="space-y-1">
          {day.stops.flatMap((stop) =>
            stop.duties.map((duty) => (
              <li key={duty.id} className="wrap-anywhere">
                {duty.title}, {duty.machineName}
              </li>
            )),
          )}
        </ul>
      </Disclosure>
    </div>
  );
}

/** What a person may do, where, and in what hours. */
export function PersonWays({
  person,
  from,
  families,
  sites,
  answer,
}: {
  person: Data["people"][number];
  from: Data["from"];
  families: Data["families"];
  sites: Data["sites"];
  answer: FormAnswer | undefined;
}) {
  const own = answerTo(answer, "worker", ["person", person.id]);
  const ticked = (name: string, kept: string[]): string[] => {
    const given = own.values[name];
    return !own.refused ? kept : [given ?? []].flat().filter((one) => typeof one === "string");
  };
  return (
    <Disclosure
      open={own.refused}
      title={
        <>
          {person.families.length === 0
            ? "All families"
            : `${person.families.length} ${person.families.length === 1 ? "family" : "families"}`}
          ,{" "}
          {person.territory.length === 0
            ? "all sites"
            : `${person.territory.length} ${person.territory.length === 1 ? "site" : "sites"}`}
          ,{" "}
          <span className="figure">
            {person.dayFrom}–{person.dayTo}
          </span>
        </>
      }
      className="mt-2"
      titleClass="text-sm"
    >
      <Form method="post" className="mt-2 grid gap-3 sm:grid-cols-[8rem_8rem_1fr_1fr]">
        <input type="hidden" name="from" value={from} />
        <input type="hidden" name="person" value={person.id} />
        <div className="sm:col-span-4">
          <Seen seen={person.seen} answer={answer} form="worker" row={["person", person.id]} />
        </div>
        <Clock id={`from-${person.id}`} name="dayFrom" label="From" value={typed(own, "dayFrom") ?? person.dayFrom} />
        <Clock id={`to-${person.id}`} name="dayTo" label="Until" value={typed(own, "dayTo") ?? person.dayTo} />
        <fieldset className="sm:col-span-4">
          <legend className="text-sm font-semibold">Breaks</legend>
          <div className="grid gap-3 sm:grid-cols-2">
            {BREAK_ROWS.map((row) => (
              <BreakRow key={row} row={row} person={person} own={own} />
            ))}
          </div>
          <p className="mt-1 text-sm text-ink-soft">
            Days are planned with them, in a soak where that costs nothing; 0 minutes: none. A day over before the hour
            by which one begins has none. Who works longer than six hours has a right to a break (Directive 2003/88/EC,
            article 4): how long it is, local rules say.
          </p>
        </fieldset>
        <Ticks
          legend="Works on (none ticked: all)"
          name="family"
          options={families.map((family) => ({ id: family, name: family.replaceAll("-", " ") }))}
          chosen={ticked("family", person.families)}
        />
        <Ticks
          legend="Territory (none ticked: all)"
          name="site"
          options={sites}
          chosen={ticked("site", person.territory)}
        />
        <button className="btn sm:col-span-2" name="intent" value="worker" aria-label={`Save for ${person.name}`}>
          Save
        </button>
      </Form>
    </Disclosure>
  );
}

/** One break: how long, and between which hours after the start it begins. */
function BreakRow({
  row,
  person,
  own,
}: {
  row: (typeof BREAK_ROWS)[number];
  person: Data["people"][number];
  own: ReturnType<typeof answerTo>;
}) {
  const kept = typedBreak(person.breaks, row);
  const fields = [
    [`break${row}Minutes`, `Break ${row}, minutes`, kept.minutes],
    [`break${row}From`, "From, hours after the start", kept.from],
    [`break${row}By`, "By, hours after the start", kept.by],
  ] as const;
  return (
    <div className="flex flex-wrap gap-2">
      {fields.map(([name, label, value]) => (
        <div key={name}>
          <label htmlFor={`${name}-${person.id}`} className="block text-sm">
            {label}
          </label>
          <input
            id={`${name}-${person.id}`}
            name={name}
            inputMode="decimal"
            defaultValue={typed(own, name) ?? String(value)}
            className="field figure w-24"
          />
        </div>
      ))}
    </div>
  );
}

function Ticks({
  legend,
  name,
  options,
  chosen,
}: {
  legend: string;
  name: string;
  options: { id: string; name: string }[];
  chosen: string[];
}) {
  return (
    <fieldset className="min-w-0">
      <legend className="text-sm font-semibold">{legend}</legend>
      <div className="max-h-40 overflow-y-auto border border-line p-2" tabIndex={0} role="group" aria-label={legend}>
        {options.map((option) => (
          <label key={option.id} className="flex min-h-8 items-center gap-2 text-sm">
            <input
              type="checkbox"
              name={name}
              value={option.id}
              defaultChecked={chosen.includes(option.id)}
              className="size-5"
            />
            {option.name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function Clock({ id, name, label, value }: { id: string; name: string; label: string; value: string }) {
  return (
    <div>
      <label htmlFor={id} className="block text-sm font-semibold">
        {label}
      </label>
      <input id={id} name={name} defaultValue={value} className="field" />
    </div>
  );
}
