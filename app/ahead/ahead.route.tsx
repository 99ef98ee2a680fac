import { must } from "@core";
import { useMemo, useState } from "react";
import { Form, Link, useFetcher, useNavigation, useSearchParams } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { listFamilies } from "~/machines/machines.server";
import { listWorkers } from "~/people/people.server";
import { actorOf } from "~/people/session.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { familyName } from "~/ui/family-glyph";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/ahead.route";
import { type AheadDuty, aheadPage } from "./ahead.server";
import { AheadGrid } from "./ahead-grid";
import {
  aheadFilter,
  dropViewSchema,
  putOnDaySchema,
  saveViewSchema,
  takeOffSchema,
  undoSchema,
} from "./ahead-schemas";
import { AheadStrips } from "./ahead-strips";
import { AheadTable } from "./ahead-table";
import { hoursWords } from "./cell-words";
import { dropView, listViews, saveView } from "./saved-views.server";
import { SelectionPanel } from "./selection-panel";

export const meta: Route.MetaFunction = () => [{ title: "Ahead – Humble Hound" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const params = new URL(request.url).searchParams;
    const filter = aheadFilter(params);
    const [page, families, people, views] = await Promise.all([
      aheadPage(filter, new Date()),
      listFamilies(),
      listWorkers(),
      listViews(actorOf(context), "ahead"),
    ]);
    return { ...page, filter, families, people, views, asTable: params.get("as") === "table" };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    put: form(putOnDaySchema, async ({ dutyIds, on, personId }, who, now) => ({
      result: await putOnDay(who, dutyIds, { on, personId: personId ?? null }, now),
      said: `${dutyIds.length} put on ${on}`,
    })),
    "take-off": form(takeOffSchema, async ({ dutyIds }, who, now) => ({
      result: await putOnDay(who, dutyIds, { on: null, personId: null }, now),
      said: `${dutyIds.length} taken off`,
    })),
    undo: form(undoSchema, async ({ before }, who, now) => {
      for (const one of before) await putOnDay(who, [one.dutyId], { on: one.on, personId: one.personId }, now);
      return "Undone";
    }),
    "save-view": form(saveViewSchema, async ({ name, query }, who, now) => {
      await saveView(who, "ahead", name, query, now);
      return `View "${name}" saved`;
    }),
    "drop-view": form(dropViewSchema, async ({ view }, who) => {
      await dropView(who, view);
      return "View removed";
    }),
  });
}

/** What a change of days is answered with: where each duty was before. */
type Answer = FormAnswer<{ dutyId: string; on: string | null; personId: string | null }[]>;

export default function Ahead({ loaderData }: Route.ComponentProps) {
  const { sites, totalSites, next, takes, filter, people, asTable } = loaderData;
  const [params] = useSearchParams();
  const busy = useNavigation().state === "loading";
  const fetcher = useFetcher<Answer>();
  const said = fetcher.data?.said;
  const before = fetcher.data?.result;
  const problem = fetcher.data ? allFaults(answerTo(fetcher.data, fetcher.data.form)) : null;
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const names = useMemo(() => new Map(people.map((person) => [person.id, person.name])), [people]);
  const chosen = sites.flatMap((site) =>
    site.duties.filter((one) => selected.has(one.dutyId)).map((one) => ({ ...one, siteName: site.name })),
  );

  function toggle(duties: readonly AheadDuty[]): void {
    const next = new Set(selected);
    const drop = duties.every((one) => next.has(one.dutyId));
    for (const { dutyId } of duties) {
      if (drop) next.delete(dutyId);
      else next.add(dutyId);
    }
    setSelected(next);
  }
  const dropOn = (dutyIds: string[], day: string): void =>
    void fetcher.submit({ intent: "put", dutyIds: dutyIds.join(","), on: day }, { method: "post" });
  const link = (change: Record<string, string | null>): string => {
    const next = new URLSearchParams(params);
    for (const [name, value] of Object.entries(change)) {
      if (value === null) next.delete(name);
      else next.set(name, value);
    }
    return `?${next}`;
  };
  const overdue = sites.reduce((sum, site) => sum + site.duties.filter((one) => one.cell === 0).length, 0);
  const week = sites.flatMap((site) => site.duties).filter((one) => one.cell > 0 && one.cell <= 7);

  return (
    <div aria-busy={busy}>
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-2xl">Ahead</h1>
          <p className="text-ink-soft">
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
          </p>
        </div>
        <nav aria-label="Other forms of this" className="no-print flex flex-wrap gap-2">
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
        </nav>
      </div>

      <Filters key={params.toString()} loaderData={loaderData} query={params.toString()} fetcher={fetcher} />

      {said && (
        <div className="mb-3">
          <Notice>
            {said}.{" "}
            {before && (
              <button
                type="button"
                className="min-h-11 underline underline-offset-4"
                onClick={() =>
                  void fetcher.submit({ intent: "undo", before: JSON.stringify(before) }, { method: "post" })
                }
              >
                Undo
              </button>
            )}
          </Notice>
        </div>
      )}
      {problem && chosen.length === 0 && (
        <div className="mb-3">
          <Notice tone="problem">{problem}</Notice>
        </div>
      )}

      {sites.length === 0 ? (
        <div className="panel p-6">
          <p className="text-lg font-semibold">
            {params.size > 0 ? "Nothing comes due under this filter." : "Nothing comes due yet."}
          </p>
          <p className="mt-1">
            {params.size > 0 ? (
              <Link to="/ahead">Show everything</Link>
            ) : (
              "Import machines first: their duties come from the procedures of their families."
            )}
          </p>
        </div>
      ) : asTable ? (
        <AheadTable sites={sites} names={names} />
      ) : (
        <>
          <div className="panel hidden p-3 lg:block">
            <AheadGrid sites={sites} selected={selected} onToggle={toggle} onDropOn={dropOn} />
            <p className="mt-2 text-xs text-ink-soft">
              Solid: falls due next. Hatched: repeats. Height: hands-on time. Flag: on a day already. Arrow keys move,
              space selects; or drag a mark onto a day.
            </p>
          </div>
          <div className="lg:hidden">
            <AheadStrips sites={sites} selected={selected} onToggle={toggle} />
          </div>
        </>
      )}
      {(next !== null || filter.after !== null) && (
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
      )}
      {chosen.length > 0 && !asTable && (
        <SelectionPanel
          duties={chosen}
          takes={takes}
          people={people}
          today={must(sites[0]).today}
          onClear={() => setSelected(new Set())}
          fetcher={fetcher}
        />
      )}
    </div>
  );
}

function Filters({
  loaderData,
  query,
  fetcher,
}: {
  loaderData: Route.ComponentProps["loaderData"];
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
        <details className="basis-full" open={Boolean(filter.family ?? filter.who ?? filter.personId)}>
          <summary className="inline-block min-h-11 py-2 text-sm underline decoration-dotted underline-offset-4">
            More filters
          </summary>
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
        </details>
      </Form>
      <details>
        <summary className="inline-block min-h-11 py-2 text-sm underline decoration-dotted underline-offset-4">
          Saved views ({views.length})
        </summary>
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
      </details>
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
