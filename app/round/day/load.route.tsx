import { data, Form, Link, redirect } from "react-router";

import { DAY } from "~/kit/day-pattern";
import { dayInWords } from "~/kit/day-time";
import { firmDay } from "~/kit/firm-day.server";
import { textOf } from "~/kit/form-text";
import { quantity } from "~/kit/quantity";
import { Refusal } from "~/kit/refusal";
import { toNumber } from "~/kit/to-number";
import { actorOf } from "~/people/session.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { reserve } from "~/stores/ledger/stock.server";
import { fetchForDay, giveBack, holdForDay, loadView } from "~/stores/load/load.server";
import { LoadGroups } from "~/stores/load/load-groups";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/load.route";
import { putOnDay } from "./put-on-day.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Load list, ${loaderData ? dayInWords(loaderData.on) : ""} – Humble Hound` },
];

async function whose(request: Request, ownId: string): Promise<{ personId: string; on: string; search: string }> {
  const url = new URL(request.url);
  const asked = url.searchParams.get("on");
  return {
    personId: url.searchParams.get("for") ?? ownId,
    on: asked && DAY.test(asked) ? asked : (await firmDay(new Date())).on,
    search: url.search,
  };
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const actor = actorOf(context);
  const { personId, on, search } = await whose(request, actor.id);
  return {
    ...(await loadView(personId, on, new Date())),
    on,
    search,
    personId: personId === actor.id ? null : personId,
    mayChange: personId === actor.id || actor.role === "lead",
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const now = new Date();
  const { personId, on, search } = await whose(request, actor.id);
  const formData = await request.formData();
  const itemId = textOf(formData, "item", 80);
  const qty = toNumber(textOf(formData, "qty", 20)) ?? 0;
  try {
    switch (textOf(formData, "intent", 20)) {
      case "fetch":
        await fetchForDay(
          actor,
          personId,
          on,
          { itemId, from: textOf(formData, "from", 36), to: textOf(formData, "to", 36), qty },
          now,
        );
        await refreshOutlook(now, [itemId]);
        break;
      case "hold":
        await reserve(
          actor,
          {
            itemId,
            placeId: textOf(formData, "from", 36),
            qty,
            personId,
            on,
            planId: textOf(formData, "plan", 36) || null,
          },
          now,
        );
        break;
      case "hold-all": {
        const { held, gone } = await holdForDay(actor, personId, on, now);
        if (gone > 0)
          return data(
            {
              message: `${held} held. ${gone} were taken by somebody else meanwhile: the list shows where else there is some.`,
            },
            { status: 409 },
          );
        break;
      }
      case "give-back":
        await giveBack(actor, personId, on, now);
        break;
      case "postpone":
        if (personId !== actor.id && actor.role !== "lead")
          throw new Refusal(403, "not-yours", "This is another person's day. Ask them or a lead.");
        await putOnDay(actor, [textOf(formData, "plan", 36)], { on: null, personId: null }, now);
        break;
      default:
        throw new Refusal(422, "intent", "This form is not known. Load the page again.");
    }
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return data({ message: error.message }, { status: error.status });
  }
  return redirect(`/round/load${search}`);
}

export default function RoundLoad({ loaderData, actionData }: Route.ComponentProps) {
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
      {actionData?.message && (
        <div className="mb-4">
          <Notice tone="problem">{actionData.message}</Notice>
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
            <section aria-labelledby="solutions" className="panel mt-5 p-4">
              <h2 id="solutions" className="text-lg">
                Solutions to make up
              </h2>
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
            </section>
          )}
          {onSite.length > 0 && (
            <section aria-labelledby="on-site" className="panel mt-5 p-4">
              <h2 id="on-site" className="text-lg">
                Waits at the site
              </h2>
              <ul className="mt-1 list-disc pl-5">
                {onSite.map((one, i) => (
                  <li key={i}>
                    {one.itemName}, <span className="figure">{quantity(one.qty, one.unit)}</span>: {one.siteName}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </>
      )}
    </div>
  );
}
