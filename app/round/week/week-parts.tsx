import { Fragment } from "react";
import { Form, Link } from "react-router";

import { dayInWords, inHours } from "~/kit/days/day-time";
import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { Disclosure } from "~/ui/disclosure";
import { Seen } from "~/ui/seen";

import type { Route } from "./+types/week.route";
import type { WeekProposal } from "./week.server";

type Data = Route.ComponentProps["loaderData"];

/** What a proposal comes to, and the buttons to take it or leave it. */
export function ProposalBar({
  people,
  from,
  proposing,
  proposal,
}: {
  people: Data["people"];
  from: Data["from"];
  proposing: boolean;
  proposal: WeekProposal | null;
}) {
  if (people.length === 0) return null;
  return (
    <Form method="post" className="mb-4 flex flex-wrap items-center gap-3">
      <input type="hidden" name="from" value={from} />
      <button className="btn btn-main" name="intent" value="propose" disabled={proposing}>
        {proposing ? "Looking for the best week…" : "Propose the week"}
      </button>
      {proposal && (
        <>
          {proposal.routes.map((route) => (
            <input
              key={`${route.person} ${route.day}`}
              type="hidden"
              name="route"
              value={[route.person, route.day, ...route.stops.flatMap((stop) => stop.duties)].join(" ")}
            />
          ))}
          <button className="btn" name="intent" value="put">
            Put it on the days
          </button>
          <p role="status" className="text-sm">
            {proposal.considered - proposal.left.length} of {proposal.considered} duties find a place. At most{" "}
            <span className="figure">
              {proposal.cost > 0 ? Math.ceil((100 * (proposal.cost - proposal.bound)) / proposal.cost) : 0}
            </span>{" "}
            % of what it costs (work late or left, minutes on the way) could be saved by any other week.
          </p>
        </>
      )}
    </Form>
  );
}

/** Seven days of one person. */
export function WeekOfPerson({
  days,
  planned,
  person,
  proposal,
  room,
  siteName,
}: {
  days: Data["days"];
  planned: Data["planned"];
  person: Data["people"][number];
  proposal: WeekProposal | null;
  room: number;
  siteName: Map<string, string>;
}) {
  return (
    <ol className="mt-2 grid gap-1 sm:grid-cols-7">
      {days.map((day, d) => {
        const cell = planned.find((one) => one.person === person.id && one.day === day);
        const route = proposal?.routes.find((one) => one.person === person.id && one.day === d);
        const before = cell?.minutes ?? 0;
        return (
          <li key={day} className="min-w-0 bg-sunken p-2 text-sm">
            <Link
              to={`/round/day?${new URLSearchParams({ on: day, for: person.id })}`}
              className="inline-block min-h-6 font-semibold"
            >
              {dayInWords(day).replace(/^(\w{3})\w*/, "$1")}
            </Link>
            <span className="mt-1 block h-2 border border-ink-soft bg-surface" aria-hidden="true">
              <span
                className="inline-block h-full bg-fill align-top"
                style={{ width: `${Math.min(100, (100 * before) / room)}%` }}
              />
              <span
                className="hatched inline-block h-full align-top text-ink"
                style={{
                  width: `${Math.min(100 - Math.min(100, (100 * before) / room), (100 * (route?.minutes ?? 0)) / room)}%`,
                }}
              />
            </span>
            {cell && (
              <span className="block text-ink-soft">
                {cell.duties} on it, {inHours(cell.minutes)}
              </span>
            )}
            {route && (
              <span className="block wrap-anywhere">
                + {inHours(route.minutes)}:{" "}
                {route.stops.map((stop, i) => (
                  <Fragment key={stop.site}>
                    {i > 0 && ", "}
                    {siteName.get(stop.site) ?? "a site"} ({stop.duties.length})
                  </Fragment>
                ))}
              </span>
            )}
          </li>
        );
      })}
    </ol>
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
