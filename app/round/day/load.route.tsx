import { Form, Link, redirect } from "react-router";

import { dayInWords } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { quantity } from "~/kit/forms/quantity";
import { Refusal } from "~/kit/refusal";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { reserve } from "~/stores/ledger/stock.server";
import { fetchForDay, giveBack, holdForDay } from "~/stores/load/hold-load.server";
import { loadView } from "~/stores/load/load.server";
import { LoadGroups } from "~/stores/load/load-groups";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/load.route";
import { daySearchSchema, fetchSchema, postponeSchema } from "./day-schemas";
import { ownDay } from "./own-day";
import { putOnDay } from "./put-on-day.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Load list, ${dayInWords(data.on)}`, "Load list") },
];

async function whose({
  request,
  context,
}: Pick<Route.ActionArgs, "request" | "context">): Promise<{ personId: string; on: string; search: string }> {
  const asked = readQuery(request, daySearchSchema);
  return {
    personId: asked.for ?? actorOf(context).id,
    on: asked.on ?? (await firmDay(new Date())).on,
    search: new URL(request.url).search,
  };
}

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const actor = actorOf(context);
    const { personId, on, search } = await whose({ request, context });
    return {
      ...(await loadView(personId, on, new Date())),
      on,
      search,
      personId: personId === actor.id ? null : personId,
      mayChange: personId === actor.id || actor.role === "lead",
    };
  });
}

export async function action(args: Route.ActionArgs) {
  const { personId, on, search } = await whose(args);
  const back = () => redirect(`/round/load${search}`);
  return formAction(
    args,
    {
      fetch: form(fetchSchema, async ({ item, from, to, qty }, who, now) => {
        if (!to) throw new Refusal(422, "to", "Choose where it goes.");
        await fetchForDay(who, personId, on, { itemId: item, from, to, qty }, now);
        await refreshOutlook(now, [item]);
        return back();
      }),
      hold: form(fetchSchema, async ({ item, from, qty, duty }, who, now) => {
        await reserve(who, { itemId: item, placeId: from, qty, personId, on, dutyId: duty ?? null }, now);
        return back();
      }),
      "hold-all": form(NOTHING, async (_, who, now) => {
        const { held, gone } = await holdForDay(who, personId, on, now);
        if (gone > 0)
          throw new Refusal(
            409,
            "gone",
            `${held} held. ${gone} were taken by somebody else meanwhile: the list shows where else there is some.`,
          );
        return back();
      }),
      "give-back": form(NOTHING, async (_, who, now) => {
        await giveBack(who, personId, on, now);
        return back();
      }),
      postpone: form(postponeSchema, async ({ duty }, who, now) => {
        await putOnDay(who, [duty], { on: null, personId: null, from: { on, personId } }, now);
        return back();
      }),
    },
    ownDay(personId),
  );
}

export default function RoundLoad({ loaderData, actionData }: Route.ComponentProps) {
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const { lines, onSite, solutions, duties, places, van, held, on, search, mayChange, personId } = loaderData;
  const sure = lines.filter((line) => line.chance === 1);
  return (
    <div className="max-w-4xl">
      <p className="no-print text-sm">
        <Link to={`/round/day${search}`}>The day</Link>
      </p>
      <h1 className="mt-1 text-2xl">Load list</h1>
      <p className="mb-4 text-ink-soft">
        {dayInWords(on)} · {duties.length} {duties.length === 1 ? "duty" : "duties"} ·{" "}
        <span className="figure">
          {sure.filter((line) => line.ticked).length} of {sure.length}
        </span>{" "}
        in the van
      </p>
      {problem && (
        <div className="mb-4">
          <Notice tone="problem">{problem}</Notice>
        </div>
      )}
      {duties.length === 0 ? (
        <p className="panel p-5">
          Nothing is on this day yet. <Link to={`/round/day${search}`}>Put duties on it</Link> first; what they take is
          then listed here.
        </p>
      ) : (
        <>
          {mayChange && (
            <Form method="post" preventScrollReset className="no-print mb-4 flex flex-wrap items-center gap-3">
              <button name="intent" value={held > 0 ? "give-back" : "hold-all"} className="btn">
                {held > 0 ? "Let it go again" : "Hold it all for this day"}
              </button>
              <p className="min-w-0 flex-1 basis-60 text-sm text-ink-soft">
                {held > 0
                  ? `${held} ${held === 1 ? "thing is" : "things are"} held: nobody else can take them.`
                  : "Nobody else can take then what is listed here from where it lies."}
              </p>
            </Form>
          )}
          <LoadGroups
            lines={lines}
            duties={duties}
            places={places}
            van={van}
            mayChange={mayChange}
            on={on}
            personId={personId}
          />
          {solutions.length > 0 && (
            <Section id="solutions" title="Solutions to make up" panel className="mt-5">
              <p className="text-sm text-ink-soft">
                Make them up before or on site; what goes into them is in the list above. Gloves and glasses; never two
                products together.
              </p>
              <ul className="mt-2 space-y-1.5">
                {solutions.map((one, i) => (
                  <li key={i} className="wrap-anywhere">
                    <strong>{one.title}</strong>, {one.machineName}:{" "}
                    <span className="figure">{quantity(one.finalMl, "mL")}</span> ={" "}
                    {one.parts.map((part) => `${quantity(part.ml, "mL")} ${part.name}`).join(" + ")}
                  </li>
                ))}
              </ul>
            </Section>
          )}
          {onSite.length > 0 && (
            <Section id="on-site" title="Waits at the site" panel className="mt-5">
              <ul className="mt-1 list-disc pl-5">
                {onSite.map((one, i) => (
                  <li key={i}>
                    {one.itemName}, <span className="figure">{quantity(one.qty, one.unit)}</span>: {one.siteName}
                  </li>
                ))}
              </ul>
            </Section>
          )}
        </>
      )}
    </div>
  );
}
