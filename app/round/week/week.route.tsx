import { addDays } from "@core";
import { Fragment } from "react";
import { Form, Link, useNavigation } from "react-router";

import { dayInWords, inHours, minutesOf } from "~/kit/days/day-time";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { listFamilies } from "~/machines/machines.server";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/week.route";
import { changeWorker, proposeWeek, putWeek, weekView } from "./week.server";
import { parseRoute, putWeekSchema, weekSchema, weekSearchSchema, workerSchema } from "./week-schemas";

export const meta: Route.MetaFunction = () => [{ title: "The week – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { from } = readQuery(request, weekSearchSchema);
    return {
      ...(await weekView(from ?? null, new Date())),
      families: await listFamilies(),
    };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    propose: form(weekSchema, async ({ from }, _, now) => ({ result: await proposeWeek(from, now) })),
    put: form(putWeekSchema, async ({ from, route }, who, now) => {
      const { put, meanwhile } = await putWeek(who, from, route.map(parseRoute), now);
      const kept = meanwhile > 0 ? ` ${meanwhile} had been planned by somebody meanwhile and stay there.` : "";
      return `${put} duties are on people's days now.${kept}`;
    }),
    worker: form(workerSchema, async ({ person, dayFrom, dayTo, family, site }, who, now) => {
      await changeWorker(who, person, { dayFrom, dayTo, families: family, territory: site }, now);
      return "Saved.";
    }),
  });
}

export default function RoundWeek({ loaderData, actionData }: Route.ComponentProps) {
  const { from, days, people, planned, open, sites, families } = loaderData;
  const navigation = useNavigation();
  const proposing = navigation.state === "submitting" && navigation.formData?.get("intent") === "propose";
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const proposal = actionData?.result ?? null;
  const siteName = new Map(sites.map((site) => [site.id, site.name]));
  return (
    <div aria-busy={navigation.state !== "idle"}>
      <p className="text-sm">
        <Link to="/round">Round</Link>
      </p>
      <div className="mt-1 mb-4 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-2xl">The week</h1>
          <p className="text-ink-soft">
            From {dayInWords(from)}. <span className="figure">{open}</span> {open === 1 ? "duty is" : "duties are"} due
            by its end and on nobody&apos;s day.
          </p>
        </div>
        <nav aria-label="Weeks" className="flex gap-2">
          <Link to="/ways" className="btn">
            Ways
          </Link>
          <Link to={`?from=${addDays(from, -7)}`} className="btn">
            Week before
          </Link>
          <Link to={`?from=${addDays(from, 7)}`} className="btn">
            Week after
          </Link>
        </nav>
      </div>
      {actionData?.said && <Notice tone="plain">{actionData.said}</Notice>}
      {problem && <Notice tone="problem">{problem}</Notice>}
      {people.length === 0 && (
        <p className="panel p-5">
          No technicians yet. <Link to="/book/people">Add people</Link> first.
        </p>
      )}

      {people.length > 0 && (
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
      )}

      <div className="space-y-3">
        {people.map((person) => {
          const room = minutesOf(person.dayTo) - minutesOf(person.dayFrom);
          return (
            <section key={person.id} aria-label={person.name} className="panel p-3">
              <h2 className="text-lg wrap-anywhere">{person.name}</h2>
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
              <details className="mt-2">
                <summary className="inline-block min-h-8 text-sm underline decoration-dotted underline-offset-4">
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
                </summary>
                <Form method="post" className="mt-2 grid gap-3 sm:grid-cols-[8rem_8rem_1fr_1fr]">
                  <input type="hidden" name="from" value={from} />
                  <input type="hidden" name="person" value={person.id} />
                  <Clock id={`from-${person.id}`} name="dayFrom" label="From" value={person.dayFrom} />
                  <Clock id={`to-${person.id}`} name="dayTo" label="Until" value={person.dayTo} />
                  <Ticks
                    legend="Works on (none ticked: all)"
                    name="family"
                    options={families.map((family) => ({ id: family, name: family.replaceAll("-", " ") }))}
                    chosen={person.families}
                  />
                  <Ticks legend="Territory (none ticked: all)" name="site" options={sites} chosen={person.territory} />
                  <button
                    className="btn sm:col-span-2"
                    name="intent"
                    value="worker"
                    aria-label={`Save for ${person.name}`}
                  >
                    Save
                  </button>
                </Form>
              </details>
            </section>
          );
        })}
      </div>
      {proposal && proposal.leftNames.length > 0 && (
        <section aria-labelledby="left" className="panel mt-4 p-4">
          <h2 id="left" className="text-lg">
            No place for {proposal.leftNames.length}
          </h2>
          <ul className="mt-1 list-disc pl-5">
            {proposal.leftNames.slice(0, 20).map((name, i) => (
              <li key={`${name} ${i}`} className="wrap-anywhere">
                {name}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
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
