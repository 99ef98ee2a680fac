import { Fragment } from "react";
import { Form, Link, redirect } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import { quantity } from "~/kit/forms/quantity";
import { Refusal } from "~/kit/refusal";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { getItem, itemMeant } from "~/stores/items/catalogue.server";
import { ItemPicker } from "~/stores/items/item-picker";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { countSchema, findItemSchema, placeSearchSchema } from "~/stores/items/stores-schemas";
import { Notice } from "~/ui/notice";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/place.route";
import { lotsAt } from "./ledger.server";
import { getPlace, stockAt } from "./places.server";
import { countStock } from "./stock.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.place.name ?? "Place"} – Humble Hound` },
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
      <h1 className="text-2xl wrap-anywhere">{place.name}</h1>
      <p className="mb-3 text-ink-soft">
        {place.kind === "van" ? "Van" : place.kind === "depot" ? "Depot" : "Customer's shelf"}
        {place.personName && ` of ${place.personName}`}
        {place.siteName && ` at ${place.siteName}`}
      </p>
      <StoreNav />
      {actionData?.message && <Notice tone="problem">{actionData.message}</Notice>}
      {difference && (
        <div className="mb-4">
          <Notice>Counted. {difference}.</Notice>
        </div>
      )}
      <section aria-labelledby="count" className="panel mb-5 p-4">
        <h2 id="count" className="mb-2 text-lg">
          {counting ? `Count: ${counting.item.name}` : "Count"}
        </h2>
        {counting ? (
          <Form method="post" className="space-y-3" key={counting.item.id}>
            <input type="hidden" name="itemId" value={counting.item.id} />
            <div className="flex flex-wrap gap-4">
              {counting.lots.map((lot, i) => (
                <Fragment key={lot.lotId ?? ""}>
                  {lot.lotId && <input type="hidden" name={`found[${i}].lot`} value={lot.lotId} />}
                  <PlainField
                    id={`found-${i}`}
                    name={`found[${i}].qty`}
                    label={
                      lot.lot === null
                        ? `Without a lot, ${counting.item.unit}`
                        : `Lot ${lot.lot}, ${counting.item.unit}`
                    }
                    hint={`The books: ${quantity(lot.qty, counting.item.unit)}${lot.expiresOn ? `, ${lot.expiresOn < today ? "expired" : "until"} ${lot.expiresOn}` : ""}`}
                    inputMode="decimal"
                    autoFocus={lot === counting.lots[0]}
                    autoComplete="off"
                    answer={errors[`found[${i}].qty`]}
                  />
                </Fragment>
              ))}
              {!counting.lots.some((lot) => lot.lotId === null) && (
                <PlainField
                  id={`found-${counting.lots.length}`}
                  name={`found[${counting.lots.length}].qty`}
                  label={`Without a lot, ${counting.item.unit}`}
                  hint="The books: nothing"
                  inputMode="decimal"
                  autoFocus={counting.lots.length === 0}
                  autoComplete="off"
                  answer={errors[`found[${counting.lots.length}].qty`]}
                />
              )}
            </div>
            <PlainField
              id="note"
              name="note"
              label="What explains a difference"
              maxLength={300}
              answer={errors.note}
              className="max-w-lg"
            />
            <div className="flex flex-wrap gap-3">
              <button className="btn btn-main" name="intent" value="count">
                That is what is there
              </button>
              <Link to={`/stores/places/${place.id}`} className="btn">
                Another item
              </Link>
            </div>
          </Form>
        ) : (
          <Form method="post" className="flex flex-wrap items-end gap-3">
            <div className="w-80 max-w-full">
              <ItemPicker id="count-item" answer={errors.item} autoFocus={difference !== null} />
            </div>
            <button className="btn btn-main" name="intent" value="choose">
              Count it
            </button>
          </Form>
        )}
      </section>
      <section aria-labelledby="holds">
        <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
          <h2 id="holds" className="text-lg">
            What it holds
          </h2>
          <Link to={counts ? "?" : "?counts=1"} className="text-sm">
            {counts ? "Show everything" : "Only what asks for a count"}
          </Link>
        </div>
        {rows.length === 0 ? (
          <p className="panel p-5">
            {counts
              ? "Nothing asks for a count here."
              : "Nothing yet. Open an item and say what was received, or move something here."}
          </p>
        ) : (
          <ul className="panel divide-y divide-line">
            {rows.map((row) => (
              <li key={row.id} className="flex flex-wrap items-baseline justify-between gap-x-4 px-4 py-2">
                <Link to={`/stores/items/${encodeURIComponent(row.id)}`} className="min-w-0 wrap-anywhere">
                  {row.name}
                </Link>
                <span className="text-right">
                  {row.countAsked && (
                    <Link to={`?count=${encodeURIComponent(row.id)}`} className="mr-3">
                      ! Please count<span className="sr-only"> {row.name}</span>
                    </Link>
                  )}
                  <span className="figure">{quantity(row.onHand, row.unit)}</span>
                  {row.reserved > 0 && (
                    <span className="text-sm text-ink-soft">, {quantity(row.reserved, row.unit)} held</span>
                  )}
                  {row.runsOutOn && (
                    <span className="block text-sm text-ink-soft">
                      until <span className="figure">{row.runsOutOn}</span>
                    </span>
                  )}
                </span>
              </li>
            ))}
          </ul>
        )}
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
