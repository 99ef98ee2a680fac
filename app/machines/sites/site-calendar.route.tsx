import { Link } from "react-router";

import { textOf } from "~/kit/form-text";
import { listLinks, makeLink, revokeOwnLink } from "~/kit/links.server";
import { served } from "~/kit/served.server";
import { actorOf } from "~/people/session.server";
import { CalendarLinks } from "~/ui/calendar-links";

import type { Route } from "./+types/site-calendar.route";
import { getSite } from "./sites.server";

export const meta: Route.MetaFunction = () => [{ title: "Calendar of a site – Humble Hound" }];

export async function loader({ params }: Route.LoaderArgs) {
  const { site } = await served(getSite(params.siteId, new Date()));
  return { site: { id: site.id, name: site.name }, links: await listLinks(["site-calendar"], site.id) };
}

export async function action({ params, request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const formData = await request.formData();
  if (formData.get("intent") === "make") {
    return {
      made: `${new URL(request.url).origin}/calendar/${await makeLink(actor, "site-calendar", params.siteId, new Date())}.ics`,
    };
  }
  await revokeOwnLink(actor, "site-calendar", params.siteId, textOf(formData, "link", 36), new Date());
  return { made: null };
}

export default function SiteCalendar({ loaderData, actionData }: Route.ComponentProps) {
  const { site, links } = loaderData;
  return (
    <div className="mx-auto max-w-3xl">
      <p className="text-sm">
        <Link to={`/sites/${site.id}`}>{site.name}</Link>
      </p>
      <h1 className="mt-1 text-2xl">Calendar of the site</h1>
      <p className="text-ink-soft">
        All duties here on the day they are put on, else due: for the customer's own calendar program (iCalendar).
      </p>
      <section className="panel mt-4 p-4" aria-label="Addresses">
        <CalendarLinks links={links} made={actionData?.made ?? null} />
      </section>
    </div>
  );
}
