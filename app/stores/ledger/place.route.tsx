import { Link, redirect } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import { quantity } from "~/kit/forms/quantity";
import { Refusal } from "~/kit/refusal";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { getItem, itemMeant } from "~/stores/items/catalogue.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { countSchema, findItemSchema, placeSearchSchema } from "~/stores/items/stores-schemas";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/place.route";
import { lotsAt } from "./ledger.server";
import { CountForm, Holds } from "./place-parts";
import { getPlace, stockAt } from "./places.server";
import { countStock } from "./stock.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.place.name, "Place") },
];

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const search = readQuery(request, placeSearchSchema);
    const place = await getPlace(params.placeId);
    const asked = search.count;
    const { on } = await firmDay(new Date());
    const item = asked ? await getItem(asked) : null;
    const stock = await stockAt(place.id, { after: search.after ?? null, counts: search.counts !== undefined });
    return {
      place,
      ...stock,
      counts: search.counts !== undefined,
      counting: item ? { item, lots: await lotsAt(item.id, place.id, on) } : null,
      difference: search.difference ?? null,
      today: on,
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { placeId } = args.params;
  return formAction(args, {
    count: form(countSchema, async ({ itemId, found, note }, who, now) => {
      const item = await getItem(itemId);
      // Nothing typed beside a lot is a lot that was not looked at; without lots it is nothing.
      const missing = found.findIndex((row) => row.lot !== undefined && row.qty === undefined);
      if (missing >= 0) throw new Refusal(422, `found[${missing}].qty`, "Type what is there, 0 for nothing.");
      const counted = found.map((row) => ({ lotId: row.lot ?? null, qty: row.qty ?? 0 }));
      const difference = await countStock(who, { itemId, placeId, found: counted, note: note ?? "" }, now);
      await refreshOutlook(now, [itemId]);
      const words =
        difference === 0
          ? `${item.name}: as the books said`
          : `${item.name}: ${quantity(Math.abs(difference), item.unit)} ${difference > 0 ? "more" : "less"} than the books said`;
      return redirect(`/stores/places/${placeId}?${new URLSearchParams({ difference: words })}`);
    }),
    choose: form(findItemSchema, async ({ item }) =>
      redirect(`/stores/places/${placeId}?count=${encodeURIComponent((await itemMeant(item)).id)}`),
    ),
  });
}

export default function StorePlace({ loaderData, actionData }: Route.ComponentProps) {
  const { place, rows, next, counting, counts, difference, today } = loaderData;
  const errors = actionData?.errors ?? {};
  return (
    <>
      <PageHead
        title={place.name}
        subtitle={
          <>
            {place.kind === "van" ? "Van" : place.kind === "depot" ? "Depot" : "Customer's shelf"}
            {place.personName && ` of ${place.personName}`}
            {place.siteName && ` at ${place.siteName}`}
          </>
        }
      />
      <StoreNav />
      {actionData?.message && <Notice tone="problem">{actionData.message}</Notice>}
      {difference && (
        <div className="mb-4">
          <Notice>Counted. {difference}.</Notice>
        </div>
      )}
      <CountForm counting={counting} today={today} errors={errors} place={place} difference={difference} />
      <section aria-labelledby="holds">
        <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
          <h2 id="holds" className="text-lg">
            What it holds
          </h2>
          <Link to={counts ? "?" : "?counts=1"} className="text-sm">
            {counts ? "Show everything" : "Only what asks for a count"}
          </Link>
        </div>
        <Holds rows={rows} counts={counts} />
        {next && (
          <Link
            to={`?${new URLSearchParams({ after: next, ...(counts ? { counts: "1" } : {}) })}`}
            className="btn mt-3"
          >
            More
          </Link>
        )}
      </section>
    </>
  );
}
