import { Link, redirect } from "react-router";

import { listDue } from "~/duties/due.server";
import { DueList } from "~/duties/due-list";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { checkAdded } from "~/machines/adding/added.server";
import { AddedNotice } from "~/machines/adding/added-panel";
import { personNames } from "~/people/people.server";
import { useIsLead } from "~/people/use-me";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/site.route";
import { ClosedDays, Contacts, SiteFacts, SiteMachines } from "./site-parts";
import { cancelClosureSchema, closureSchema } from "./site-schemas";
import { addClosure, cancelClosure, getSite } from "./sites.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.site.name, "Site") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const view = await getSite(params.siteId, now);
    const { toCheck, addedBy: by } = view.site;
    const addedBy = toCheck && by !== null ? ((await personNames([by]))[by] ?? null) : null;
    return { ...view, addedBy, due: (await listDue({ siteId: params.siteId, limit: 12 }, now)).rows };
  });
}

export function action(args: Route.ActionArgs) {
  const { siteId } = args.params;
  const here = `/sites/${siteId}`;
  return formAction(args, {
    "add-closure": form(closureSchema, async (closure, who, now) => {
      await addClosure(who, siteId, closure, now);
      return redirect(here);
    }),
    "looked-over": form(NOTHING, async (_, who, now) => {
      await checkAdded(who, { kind: "site", id: siteId }, now);
      return redirect(here);
    }),
    "cancel-closure": form(cancelClosureSchema, async ({ closure }, who, now) => {
      await cancelClosure(who, siteId, closure, now);
      return redirect(here);
    }),
  });
}

export default function Site({ loaderData, actionData }: Route.ComponentProps) {
  const { site, today, closures, holidays, machines, machineCount, due, addedBy } = loaderData;
  const lead = useIsLead();
  return (
    <>
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link> · <Link to="/sites">Sites</Link>
          </>
        }
        title={site.name}
        subtitle={
          <>
            {site.customerName}
            {site.address && ` · ${site.address}`}
          </>
        }
      >
        <Link
          to={`/machines/new?${new URLSearchParams({ site: `${site.name}, ${site.customerName}` })}`}
          className="btn"
        >
          Add a machine
        </Link>
        <Link to={`/book?site=${site.id}`} className="btn">
          Records
        </Link>
        <Link to={`/ahead?site=${site.id}`} className="btn">
          Ahead here
        </Link>
        {lead && (
          <Link to={`/sites/${site.id}/edit`} className="btn">
            Change
          </Link>
        )}
        {lead && (
          <Link to={`/sites/${site.id}/calendar`} className="btn">
            Calendar
          </Link>
        )}
      </PageHead>
      <div className="grid gap-6 lg:grid-cols-[1fr_20rem]">
        <div className="min-w-0 space-y-7">
          {site.toCheck && <AddedNotice by={addedBy} change={`/sites/${site.id}/edit`} />}
          <Section id="due" title="Needs somebody">
            {due.length === 0 ? <p className="panel p-4">Nothing for now.</p> : <DueList rows={due} />}
          </Section>
          <SiteMachines machineCount={machineCount} machines={machines} site={site} />
        </div>
        <aside className="space-y-6">
          <SiteFacts site={site} today={today} />
          <Contacts site={site} />
          <ClosedDays closures={closures} holidays={holidays} actionData={actionData} />
        </aside>
      </div>
    </>
  );
}
