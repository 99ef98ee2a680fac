import type { FetcherWithComponents, useFetcher } from "react-router";
import { Form, Link } from "react-router";

import type { FormAnswer } from "~/kit/forms/form-answer";
import type { Moved, PlacedDuty } from "~/round/day/put-on-day.server";
import { Disclosure } from "~/ui/disclosure";
import { familyName } from "~/ui/family-names";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/ahead.route";
import type { AheadDuty } from "./ahead.server";
import { hoursWords } from "./cell-words";

type Data = Route.ComponentProps["loaderData"];

/** How many sites come due, what is pressing here, and the other forms of the same. */
export function AheadHead({
  totalSites,
  sites,
  overdue,
  week,
  link,
  asTable,
}: {
  totalSites: Data["totalSites"];
  sites: Data["sites"];
  overdue: number;
  week: readonly AheadDuty[];
  link: (change: Record<string, string | null>) => string;
  asTable: Data["asTable"];
}) {
  return (
    <PageHead
      title="Ahead"
      subtitle={
        <>
          {totalSites === null ? (
            "Sites"
          ) : (
            <>
              <span className="figure">{totalSites.toLocaleString("en")}</span> {totalSites === 1 ? "site" : "sites"}
            </>
          )}
          , the most pressing first
          {sites.length > 0 && (
            <>
              {" "}
              · here <span className="figure">{overdue}</span> overdue, <span className="figure">{week.length}</span>{" "}
              within a week (
              <span className="figure">{hoursWords(week.reduce((sum, one) => sum + one.handsOn, 0))}</span>)
            </>
          )}
        </>
      }
    >
      <Link to={link({ as: asTable ? null : "table" })} className="btn">
        {asTable ? "As a line of time" : "As a table"}
      </Link>
      <a href={`/ahead.csv${link({ as: null, after: null })}`} className="btn" download>
        CSV
      </a>
      <Link to={`/ahead/workload${link({ as: null, after: null })}`} className="btn">
        52 weeks
      </Link>
      <Link to="/calendars" className="btn">
        My calendar
      </Link>
    </PageHead>
  );
}

/** What was done, with the way back. */
export function Said({
  said,
  moved,
  fetcher,
}: {
  said: string | null | undefined;
  moved: Answer["result"] | undefined;
  fetcher: FetcherWithComponents<Answer>;
}) {
  if (!said) return null;
  return (
    <div className="mb-3">
      <Notice>
        {said}.{" "}
        {moved && (
          <button
            type="button"
            className="min-h-11 underline underline-offset-4"
            onClick={() =>
              void fetcher.submit(
                { intent: "undo", duties: JSON.stringify(moved.duties), before: JSON.stringify(moved.before) },
                { method: "post" },
              )
            }
          >
            Undo
          </button>
        )}
      </Notice>
    </div>
  );
}

export function Pages({
  next,
  filter,
  link,
}: {
  next: Data["next"];
  filter: Data["filter"];
  link: (change: Record<string, string | null>) => string;
}) {
  if (!(next !== null || filter.after !== null)) return null;
  return (
    <nav aria-label="Pages of sites" className="no-print mt-3 flex items-center gap-3">
      {filter.after !== null && (
        <Link to={link({ after: null })} className="btn">
          The most pressing
        </Link>
      )}
      {next !== null && (
        <Link to={link({ after: next })} className="btn">
          Less pressing sites
        </Link>
      )}
    </nav>
  );
}

export function Filters({
  loaderData,
  query,
  fetcher,
}: {
  loaderData: Data;
  query: string;
  fetcher: ReturnType<typeof useFetcher<Answer>>;
}) {
  const { filter, families, people, views } = loaderData;
  return (
    <div className="no-print mb-4 space-y-2">
      <Form method="get" role="search" className="flex flex-wrap items-end gap-2">
        <div className="min-w-44 flex-1">
          <label htmlFor="ahead-q" className="block text-sm font-semibold">
            Site or customer
          </label>
          <input id="ahead-q" name="q" type="search" className="field" defaultValue={filter.q ?? ""} />
        </div>
        <button className="btn btn-main">Show</button>
        <Disclosure
          title="More filters"
          open={Boolean(filter.family ?? filter.who ?? filter.personId)}
          className="basis-full"
          titleClass="text-sm"
        >
          <div className="flex flex-wrap gap-2">
            <Choice
              name="family"
              label="Family"
              value={filter.family}
              options={[["", "All"], ...families.map((family) => [family, familyName(family)] as const)]}
            />
            <Choice
              name="who"
              label="Who"
              value={filter.who}
              options={[
                ["", "Anyone"],
                ["operator", "Operator"],
                ["technician", "Technician"],
                ["licensed", "Licensed"],
              ]}
            />
            <Choice
              name="for"
              label="On a day for"
              value={filter.personId}
              options={[["", "All"], ...people.map((person) => [person.id, person.name] as const)]}
            />
          </div>
        </Disclosure>
      </Form>
      <Disclosure title={<>Saved views ({views.length})</>} titleClass="text-sm">
        <ul className="flex flex-wrap gap-3">
          {views.map((view) => (
            <li key={view.id} className="flex items-center gap-2">
              <Link to={`/ahead${view.query ? `?${view.query}` : ""}`}>{view.name}</Link>
              <fetcher.Form method="post">
                <input type="hidden" name="intent" value="drop-view" />
                <input type="hidden" name="view" value={view.id} />
                <button className="min-h-11 text-sm underline" aria-label={`Remove the view ${view.name}`}>
                  Remove
                </button>
              </fetcher.Form>
            </li>
          ))}
        </ul>
        <fetcher.Form method="post" className="mt-1 flex flex-wrap items-end gap-2">
          <input type="hidden" name="intent" value="save-view" />
          <input type="hidden" name="query" value={query} />
          <div>
            <label htmlFor="view-name" className="block text-sm font-semibold">
              Keep this filter as
            </label>
            <input id="view-name" name="name" className="field" maxLength={80} required />
          </div>
          <button className="btn">Save the view</button>
        </fetcher.Form>
      </Disclosure>
    </div>
  );
}

function Choice({
  name,
  label,
  value,
  options,
}: {
  name: string;
  label: string;
  value: string | null;
  options: readonly (readonly [string, string])[];
}) {
  return (
    <div>
      <label htmlFor={`ahead-${name}`} className="block text-sm font-semibold">
        {label}
      </label>
      <select id={`ahead-${name}`} name={name} className="field" defaultValue={value ?? ""}>
        {options.map(([option, text]) => (
          <option key={option} value={option}>
            {text}
          </option>
        ))}
      </select>
    </div>
  );
}

export type Answer = FormAnswer<Moved>;

/** Duties as a form sends them: each with where the page shows it. */
export function placesText(duties: readonly { dutyId: string; plannedOn: string | null; plannedFor: string | null }[]) {
  return JSON.stringify(
    duties.map((one): PlacedDuty => ({ dutyId: one.dutyId, on: one.plannedOn, personId: one.plannedFor })),
  );
}
