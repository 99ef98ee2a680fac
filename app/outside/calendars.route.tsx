import { Link } from "react-router";

import { textOf } from "~/kit/form-text";
import { listLinks, makeLink, revokeOwnLink } from "~/kit/links.server";
import { actorOf } from "~/people/session.server";
import { CalendarLinks } from "~/ui/calendar-links";

import type { Route } from "./+types/calendars.route";

export const meta: Route.MetaFunction = () => [{ title: "My calendar – Humble Hound" }];

export async function loader({ context }: Route.LoaderArgs) {
  return { links: await listLinks(["person-calendar"], actorOf(context).id) };
}

export async function action({ request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const formData = await request.formData();
  if (formData.get("intent") === "make") {
    return {
      made: `${new URL(request.url).origin}/calendar/${await makeLink(actor, "person-calendar", actor.id, new Date())}.ics`,
    };
  }
  await revokeOwnLink(actor, "person-calendar", actor.id, textOf(formData, "link", 36), new Date());
  return { made: null };
}

export default function Calendars({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <div className="mx-auto max-w-3xl">
      <p className="text-sm">
        <Link to="/ahead">Ahead</Link>
      </p>
      <h1 className="mt-1 text-2xl">My calendar</h1>
      <p className="text-ink-soft">
        An address that any calendar program can subscribe to (iCalendar): what is put on a day for you. A duty that
        moves, moves there too. Sites have calendars of their own, on their pages.
      </p>
      <section className="panel mt-4 p-4" aria-label="Addresses">
        <CalendarLinks links={loaderData.links} made={actionData?.made ?? null} />
      </section>
    </div>
  );
}
