import { must } from "@core";
import { useMemo, useState } from "react";
import { Link, useFetcher, useNavigation, useSearchParams } from "react-router";

import type { Actor } from "~/kit/actor";
import { shortDay } from "~/kit/days/day-time";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { listFamilies } from "~/machines/machines.server";
import { listWorkers } from "~/people/people.server";
import { actorOf } from "~/people/session.server";
import { undoSchema } from "~/round/day/places-schema";
import { moveBack, type Moved, type Place, type PlacedDuty, putOnDay } from "~/round/day/put-on-day.server";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/ahead.route";
import { type AheadDuty, aheadPage } from "./ahead.server";
import { AheadGrid } from "./ahead-grid";
import { AheadHead, type Answer, Filters, Pages, placesText, Said } from "./ahead-parts";
import { aheadFilter, dropViewSchema, putOnDaySchema, saveViewSchema, takeOffSchema } from "./ahead-schemas";
import { AheadStrips } from "./ahead-strips";
import { AheadTable } from "./ahead-table";
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
    put: form(putOnDaySchema, async ({ duties, on, personId }, who, now) => ({
      result: await move(who, duties, { on, personId: personId ?? null }, now),
      said: `${duties.length} put on ${shortDay(on, now.toISOString())}`,
    })),
    "take-off": form(takeOffSchema, async ({ duties }, who, now) => ({
      result: await move(who, duties, { on: null, personId: null }, now),
      said: `${duties.length} taken off`,
    })),
    undo: form(undoSchema, async ({ duties, before }, who, now) => {
      await moveBack(who, duties, before, now);
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

/** Moves duties from where they were seen; the answer says what undoes it. */
async function move(who: Actor, duties: readonly PlacedDuty[], to: Place, now: Date): Promise<Moved> {
  const ids = duties.map((one) => one.dutyId);
  const before = await putOnDay(who, ids, { ...to, from: new Map(duties.map((one) => [one.dutyId, one])) }, now);
  return { before, duties: before.map((one) => ({ dutyId: one.dutyId, ...to })) };
}

export default function Ahead({ loaderData }: Route.ComponentProps) {
  const { sites, totalSites, next, takes, filter, people, asTable } = loaderData;
  const [params] = useSearchParams();
  const busy = useNavigation().state === "loading";
  const fetcher = useFetcher<Answer>();
  const said = fetcher.data?.said;
  const moved = fetcher.data?.result;
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
  const dropOn = (dutyIds: string[], day: string): void => {
    const dropped = sites.flatMap((site) => site.duties).filter((one) => dutyIds.includes(one.dutyId));
    void fetcher.submit({ intent: "put", duties: placesText(dropped), on: day }, { method: "post" });
  };
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
      <AheadHead totalSites={totalSites} sites={sites} overdue={overdue} week={week} link={link} asTable={asTable} />

      <Filters key={params.toString()} loaderData={loaderData} query={params.toString()} fetcher={fetcher} />

      <Said said={said} moved={moved} fetcher={fetcher} />
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
      <Pages next={next} filter={filter} link={link} />
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
