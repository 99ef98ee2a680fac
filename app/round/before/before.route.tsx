import { Link, useNavigation } from "react-router";

import { dayInWords } from "~/kit/days/day-time";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { againSchema } from "~/kit/messages/again-schema";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { whoseDay } from "~/round/day/day-action.server";
import { ownDay } from "~/round/day/own-day";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/before.route";
import { announce, beforeView, noteAnswer, tryAgain } from "./before.server";
import { BeforeSite } from "./before-parts";
import { announceSchema, answerSchema } from "./before-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Before we come, ${dayInWords(data.on)}`, "Before we come") },
];

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const { personId, on, params } = await whoseDay({ request, context });
    return { ...(await beforeView(personId, on, new Date())), back: `/round/day?${params}` };
  });
}

export async function action(args: Route.ActionArgs) {
  const { personId, on } = await whoseDay(args);
  return formAction(
    args,
    {
      announce: form(announceSchema, async ({ site, to, name = "", ask = [], note = "" }, who, now) => {
        // Where customers reach the app may be another address than where its people do.
        const origin = process.env.PUBLIC_URL ?? new URL(args.request.url).origin;
        const said = { site, to, name, asks: ask, note, origin };
        return `On its way to ${await announce(who, personId, on, said, now)}.`;
      }),
      answer: form(answerSchema, async ({ request, answer }, who, now) => {
        await noteAnswer(who, { personId, on, request, answer }, now);
        return answer === "yes" ? "Noted, and the day is planned with it." : "Noted. The day does not count on it.";
      }),
      again: form(againSchema, async ({ message }, _, now) => {
        await tryAgain(personId, on, message, now);
        return "It is tried again now.";
      }),
    },
    ownDay(personId),
  );
}

export default function RoundBefore({ loaderData, actionData }: Route.ComponentProps) {
  const { person, on, open, planned, sites, back } = loaderData;
  const busy = useNavigation().state !== "idle";
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  return (
    <div aria-busy={busy}>
      <PageHead
        back={<Link to={back}>{dayInWords(on)}</Link>}
        title="Before we come"
        subtitle={`${person.name} · who is told when, and what saves time if they do it before.`}
      />
      {(actionData?.said ?? problem) && (
        <Notice tone={problem ? "problem" : "plain"}>{problem ?? actionData?.said}</Notice>
      )}
      {!planned && (
        <div className="panel p-6">
          <p className="text-lg font-semibold">The day has no plan yet.</p>
          <p className="mt-1">Who is told when comes from the day as it is planned.</p>
          <Link to={back} className="btn btn-main mt-4">
            Plan the day
          </Link>
        </div>
      )}
      <div className="space-y-5">
        {sites.map((site) => (
          <BeforeSite key={site.id} site={site} person={person.name} on={on} open={open} answer={actionData} />
        ))}
      </div>
    </div>
  );
}
