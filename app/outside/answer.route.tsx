import { Form, useNavigation } from "react-router";

import { dayInWords } from "~/kit/days/day-time";
import { allFaults, answerTo, typed } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { findLink } from "~/kit/server/links.server";
import { countLinkUse } from "~/kit/server/rate-limit.server";
import { addressContext } from "~/kit/server/request-context";
import { served } from "~/kit/server/served.server";
import { customerAnswers, takeAnswers } from "~/round/before/answer.server";
import { customerAnswerSchema } from "~/round/before/before-schemas";
import { Notice } from "~/ui/notice";
import { PlainField } from "~/ui/plain-field";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/answer.route";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Before we come, ${data.site}`, "Before we come") },
  { name: "robots", content: "noindex" },
];

async function linkOf(token: string, address: string) {
  await served(countLinkUse(address));
  const link = await findLink(["answer"], token);
  if (!link) throw new Response("This link does not exist or was ended. Call your service firm.", { status: 404 });
  return link;
}

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => customerAnswers(await linkOf(params.token, context.get(addressContext)), new Date()));
}

export async function action(args: Route.ActionArgs) {
  const link = await linkOf(args.params.token, args.context.get(addressContext));
  return formAction(args, {
    answer: form(customerAnswerSchema, async ({ name, answers }, _, now) => {
      await takeAnswers(link, { name, answers }, now);
      return "Thank you. We plan with it; you can change it here until the day.";
    }),
  });
}

export default function Answer({ loaderData, actionData }: Route.ComponentProps) {
  const { site, on, person, over, asked } = loaderData;
  const busy = useNavigation().state !== "idle";
  const answer = answerTo(actionData, "answer");
  const problem = actionData ? allFaults(answer) : null;
  return (
    <div className="mx-auto max-w-xl">
      <h1 className="text-2xl wrap-anywhere">{dayInWords(on)}</h1>
      <p className="mb-3 text-ink-soft wrap-anywhere">
        {site}
        {person && ` · ${person} asks`}
      </p>
      {(actionData?.said ?? problem) && (
        <Notice tone={problem ? "problem" : "plain"}>{problem ?? actionData?.said}</Notice>
      )}
      {over && <Notice>That day is over. What was said stays here to be read.</Notice>}
      {asked.length === 0 && <p className="panel p-4">Nothing is asked any more: a later message asks anew.</p>}
      {asked.length > 0 && (
        <Form method="post" className="panel p-4">
          <p className="mb-2">
            What saves time if it is done before. Only by people of yours who may do it, and only where it is safe.
          </p>
          {asked.map((one, i) => (
            <fieldset key={one.id} className="border-t border-line py-3" disabled={over}>
              <legend className="float-left w-full wrap-anywhere">{one.words}</legend>
              <input type="hidden" name={`answers[${i}].id`} value={one.id} />
              <div className="clear-both flex gap-6">
                {(["yes", "no"] as const).map((said) => (
                  <label key={said} className="flex min-h-12 items-center gap-3">
                    <input
                      type="radio"
                      name={`answers[${i}].said`}
                      value={said}
                      defaultChecked={one.answer === said}
                      className="size-6"
                    />
                    {said === "yes" ? "Yes, we do it" : "No"}
                  </label>
                ))}
              </div>
            </fieldset>
          ))}
          {!over && (
            <>
              <PlainField
                id="name"
                label="Your name"
                name="name"
                autoComplete="name"
                maxLength={120}
                required
                answer={answer.errors["name"]}
                defaultValue={typed(answer, "name") ?? ""}
              />
              <button className="btn btn-main btn-big mt-3 w-full" aria-disabled={busy}>
                Send the answer
              </button>
            </>
          )}
        </Form>
      )}
    </div>
  );
}
