import { Link } from "react-router";

import { linkSchema } from "~/kit/forms/link-schema";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { listLinks, makeLink, revokeOwnLink } from "~/kit/server/links.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { CalendarLinks } from "~/ui/calendar-links";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/calendars.route";

export const meta: Route.MetaFunction = () => [{ title: "My calendar – Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  return served(async () => {
    return { links: await listLinks(["person-calendar"], actorOf(context).id) };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    make: form(NOTHING, async (_, who, now) => {
      const { origin } = new URL(args.request.url);
      return { result: `${origin}/calendar/${await makeLink(who, "person-calendar", who.id, now)}.ics` };
    }),
    revoke: form(linkSchema, async ({ link }, who, now) => {
      await revokeOwnLink(who, "person-calendar", who.id, link, now);
    }),
  });
}

export default function Calendars({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={
          <>
            <Link to="/ahead">Ahead</Link>
          </>
        }
        title="My calendar"
        subtitle="An address that any calendar program can subscribe to (iCalendar): what is put on a day for you. A duty that moves, moves there too. Sites have calendars of their own, on their pages."
      />
      <section className="panel mt-4 p-4" aria-label="Addresses">
        <CalendarLinks links={loaderData.links} made={actionData?.result ?? null} />
      </section>
    </div>
  );
}
