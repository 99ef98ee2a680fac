import { Link } from "react-router";

import { linkSchema } from "~/kit/forms/link-schema";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { listLinks, makeLink, revokeOwnLink } from "~/kit/server/links.server";
import { served } from "~/kit/server/served.server";
import { CalendarLinks } from "~/ui/calendar-links";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/site-calendar.route";
import { getSite } from "./sites.server";

export const meta: Route.MetaFunction = () => [{ title: "Calendar of a site – Humble Hound" }];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const { site } = await getSite(params.siteId, new Date());
    return { site: { id: site.id, name: site.name }, links: await listLinks(["site-calendar"], site.id) };
  });
}

export function action(args: Route.ActionArgs) {
  const { siteId } = args.params;
  return formAction(args, {
    make: form(NOTHING, async (_, who, now) => {
      const { origin } = new URL(args.request.url);
      return { result: `${origin}/calendar/${await makeLink(who, "site-calendar", siteId, now)}.ics` };
    }),
    revoke: form(linkSchema, async ({ link }, who, now) => {
      await revokeOwnLink(who, "site-calendar", siteId, link, now);
    }),
  });
}

export default function SiteCalendar({ loaderData, actionData }: Route.ComponentProps) {
  const { site, links } = loaderData;
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={
          <>
            <Link to={`/sites/${site.id}`}>{site.name}</Link>
          </>
        }
        title="Calendar of the site"
        subtitle="All duties here on the day they are put on, else due: for the customer's own calendar program (iCalendar)."
      />
      <section className="panel mt-4 p-4" aria-label="Addresses">
        <CalendarLinks links={links} made={actionData?.result ?? null} />
      </section>
    </div>
  );
}
