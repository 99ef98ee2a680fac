import { data, Form, Link, redirect } from "react-router";

import { firmDay } from "~/kit/firm-day.server";
import type { FormAnswer } from "~/kit/form-answer";
import { refusalAnswer } from "~/kit/form-answer.server";
import { textOf } from "~/kit/form-text";
import { quantity } from "~/kit/quantity";
import { Refusal } from "~/kit/refusal";
import { served } from "~/kit/served.server";
import { toNumber } from "~/kit/to-number";
import { actorOf } from "~/people/session.server";
import { getItem, itemMeant } from "~/stores/items/catalogue.server";
import { ItemPicker } from "~/stores/items/item-picker";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { Notice } from "~/ui/notice";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/place.route";
import { lotsAt } from "./ledger.server";
import { getPlace, stockAt } from "./places.server";
import { countStock } from "./stock.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.place.name ?? "Place"} – Humble Hound` },
];

export async function loader({ params, request }: Route.LoaderArgs) {
  const search = new URL(request.url).searchParams;
  const place = await served(getPlace(params.placeId));
  const asked = search.get("count");
  const { on } = await firmDay(new Date());
  const item = asked ? await served(getItem(asked)) : null;
  const stock = await stockAt(place.id, { after: search.get("after"), counts: search.has("counts") });
  return {
    place,
    ...stock,
    counts: search.has("counts"),
    counting: item ? { item, lots: await lotsAt(item.id, place.id, on) } : null,
    difference: search.get("difference"),
    today: on,
  };
}

export async function action({ params, request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const now = new Date();
  const formData = await request.formData();
  const form = textOf(formData, "intent", 20);
  const { placeId } = params;
  try {
    if (form === "choose") {
      const item = await itemMeant(textOf(formData, "item", 160));
      return redirect(`/stores/places/${placeId}?count=${encodeURIComponent(item.id)}`);
    }
    const itemId = textOf(formData, "itemId", 80);
    const item = await getItem(itemId);
    const found: { lotId: string | null; qty: number }[] = [];
    const errors: FormAnswer["errors"] = {};
    for (const [name, value] of formData.entries()) {
      if (!name.startsWith("found-") || typeof value !== "string") continue;
      const lotId = name.slice(6) || null;
      const qty = value.trim() === "" && lotId === null ? 0 : toNumber(value);
      if (qty === null || qty < 0) errors[name] = ["Type what is there, 0 for nothing."];
      else found.push({ lotId, qty });
    }
    if (Object.keys(errors).length > 0)
      return data({ form, errors } satisfies FormAnswer as FormAnswer, { status: 422 });
    const difference = await countStock(actor, { itemId, placeId, found, note: textOf(formData, "note", 300) }, now);
    await refreshOutlook(now, [itemId]);
    const words =
      difference === 0
        ? `${item.name}: as the books said`
        : `${item.name}: ${quantity(Math.abs(difference), item.unit)} ${difference > 0 ? "more" : "less"} than the books said`;
    return redirect(`/stores/places/${placeId}?${new URLSearchParams({ difference: words })}`);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return data(refusalAnswer(form, error), { status: 422 });
  }
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
              {counting.lots.map((lot) => (
                <PlainField
                  key={lot.lotId ?? ""}
                  id={`found-${lot.lotId ?? ""}`}
                  name={`found-${lot.lotId ?? ""}`}
                  label={
                    lot.lot === null ? `Without a lot, ${counting.item.unit}` : `Lot ${lot.lot}, ${counting.item.unit}`
                  }
                  hint={`The books: ${quantity(lot.qty, counting.item.unit)}${lot.expiresOn ? `, ${lot.expiresOn < today ? "expired" : "until"} ${lot.expiresOn}` : ""}`}
                  inputMode="decimal"
                  autoFocus={lot === counting.lots[0]}
                  autoComplete="off"
                  answer={errors[`found-${lot.lotId ?? ""}`]}
                />
              ))}
              {!counting.lots.some((lot) => lot.lotId === null) && (
                <PlainField
                  id="found-"
                  name="found-"
                  label={`Without a lot, ${counting.item.unit}`}
                  hint="The books: nothing"
                  inputMode="decimal"
                  autoFocus={counting.lots.length === 0}
                  autoComplete="off"
                  answer={errors["found-"]}
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
