import { must } from "@core";
import { Form, Link, redirect } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { quantity } from "~/kit/forms/quantity";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { listPlaces } from "~/stores/ledger/places.server";
import { listKits } from "~/stores/load/kits.server";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/stores.route";
import { itemMeant } from "./catalogue.server";
import { ItemPicker } from "./item-picker";
import { refreshOutlook } from "./outlook.server";
import { type OutlookRow, storesHome } from "./overview.server";
import { RunOutStrip } from "./run-out-strip";
import { StoreNav } from "./store-nav";
import { findItemSchema } from "./stores-schemas";

export const meta = () => [{ title: "Stores – Humble Hound" }];

export function loader() {
  return served(async () => {
    return { ...(await storesHome(new Date())), places: await listPlaces(), kits: await listKits() };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    find: form(findItemSchema, async ({ item }) =>
      redirect(`/stores/items/${encodeURIComponent((await itemMeant(item)).id)}`),
    ),
    "work-out": form(NOTHING, async (_, __, now) => {
      await refreshOutlook(now);
      return redirect("/stores");
    }),
  });
}

export default function Stores({ loaderData, actionData }: Route.ComponentProps) {
  const found = answerTo(actionData, "find");
  const { today, workedOutAt, order, expiring, likely, counts, openOrders, places, kits } = loaderData;
  const low = kits.flatMap((kit) =>
    kit.places.flatMap((place) =>
      place.cover && place.cover.services < 3 ? [{ kit, place, cover: place.cover }] : [],
    ),
  );
  return (
    <>
      <h1 className="mb-2 text-2xl">Stores</h1>
      <StoreNav />
      <Form method="post" className="mb-5 flex flex-wrap items-end gap-3" role="search">
        <div className="w-80 max-w-full">
          <ItemPicker
            id="find-item"
            label="Find an item"
            answer={found.refused ? [allFaults(found) ?? ""] : undefined}
          />
        </div>
        <button className="btn">Open it</button>
      </Form>
      {places.length === 0 && (
        <div className="mb-5">
          <Notice>
            No places yet. Add the vans and the depot first, under <Link to="/stores/places">Places</Link>: then sheets
            take from them.
          </Notice>
        </div>
      )}
      <div className="grid gap-5 lg:grid-cols-[1fr_19rem]">
        <div className="min-w-0 space-y-5">
          <List
            title="To be ordered"
            empty="Nothing runs out in the next three months by what is surely needed."
            rows={order}
          >
            {(row) => (
              <>
                <RunOutStrip today={today} runsOutOn={row.runsOutOn} orderBy={row.orderBy} />
                <p className="min-w-0 flex-1 basis-52 text-sm">
                  {must(row.orderBy) < today ? (
                    <strong>! Order it: it will not come in time. </strong>
                  ) : (
                    <>
                      Order by <span className="figure">{row.orderBy}</span>.{" "}
                    </>
                  )}
                  <span className="text-ink-soft">
                    {quantity(row.orderQty, row.unit)} are missing from <span className="figure">{row.runsOutOn}</span>{" "}
                    on
                    {row.onOrder > 0 && <>; {quantity(row.onOrder, row.unit)} on order</>}
                  </span>
                </p>
              </>
            )}
          </List>
          {order.length > 0 && (
            <p>
              <Link to="/stores/orders" className="btn btn-main">
                Make drafts of orders
              </Link>
            </p>
          )}
          {likely.length > 0 && (
            <List title="Likely to be missed" empty="" rows={likely}>
              {(row) => (
                <p className="min-w-0 flex-1 basis-52 text-sm text-ink-soft">
                  By past services about {quantity(Math.round(row.likely * 10) / 10, row.unit)} will turn out to be
                  needed in three months
                  {row.needed > 0 && <>, besides {quantity(row.needed, row.unit)} surely</>};{" "}
                  {quantity(row.onHand, row.unit)} there.
                </p>
              )}
            </List>
          )}
          {expiring.length > 0 && (
            <List title="Will expire unused" empty="" rows={expiring}>
              {(row) => (
                <p className="min-w-0 flex-1 basis-52 text-sm">
                  {quantity(row.expiringQty, row.unit)} {must(row.expiringOn) < today ? "expired on" : "on"}{" "}
                  <span className="figure">{row.expiringOn}</span>
                </p>
              )}
            </List>
          )}
        </div>
        <aside className="min-w-0 space-y-5">
          {counts.length > 0 && (
            <section aria-labelledby="counts" className="panel p-4">
              <h2 id="counts" className="text-lg">
                Please count
              </h2>
              <p className="text-sm text-ink-soft">More was used than the books had.</p>
              <ul className="mt-2 space-y-2">
                {counts.map((row) => (
                  <li key={`${row.itemId} ${row.placeId}`}>
                    <Link
                      to={`/stores/places/${row.placeId}?count=${encodeURIComponent(row.itemId)}`}
                      className="wrap-anywhere"
                    >
                      {row.name}
                    </Link>
                    <span className="block text-sm text-ink-soft">
                      {row.placeName}: <span className="figure">{quantity(row.onHand, row.unit)}</span>
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {low.length > 0 && (
            <section aria-labelledby="kits" className="panel p-4">
              <h2 id="kits" className="text-lg">
                Kits running low
              </h2>
              <ul className="mt-1 space-y-2">
                {low.map(({ kit, place, cover }) => (
                  <li key={`${kit.id} ${place.placeId}`}>
                    <Link to="/stores/kits">{kit.name}</Link>, {place.placeName}
                    <span className="block text-sm text-ink-soft">
                      {cover.services === 0
                        ? "No whole service"
                        : cover.services === 1
                          ? "One more service"
                          : `${cover.services} more services`}
                      ; first out:{" "}
                      {cover.firstOut.map((id) => kit.items.find((one) => one.itemId === id)?.name ?? id).join(", ")}
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <section aria-labelledby="places" className="panel p-4">
            <h2 id="places" className="text-lg">
              Places
            </h2>
            <ul className="mt-1">
              {places.map((place) => (
                <li key={place.id}>
                  <Link to={`/stores/places/${place.id}`} className="inline-block min-h-8 wrap-anywhere">
                    {place.name}
                  </Link>
                  {place.personName && <span className="text-sm text-ink-soft"> {place.personName}</span>}
                  {place.siteName && <span className="text-sm text-ink-soft"> at {place.siteName}</span>}
                </li>
              ))}
            </ul>
            <p className="mt-2 flex flex-wrap gap-x-4 text-sm">
              <Link to="/stores/places" className="inline-block min-h-8">
                All places
              </Link>
              <a href="/stores.csv" className="inline-block min-h-8">
                Stock as CSV
              </a>
            </p>
          </section>
          <section className="panel p-4">
            <p>
              <Link to="/stores/orders">
                {openOrders} open {openOrders === 1 ? "order" : "orders"}
              </Link>
            </p>
            {workedOutAt && (
              <p className="mt-2 text-sm text-ink-soft">
                Looked ahead at <span className="figure">{workedOutAt.toISOString().slice(11, 16)}</span> UTC: every
                duty that comes due, with what its procedure takes.
              </p>
            )}
            <Form method="post">
              <button name="intent" value="work-out" className="min-h-11 text-sm underline">
                Look ahead again
              </button>
            </Form>
          </section>
        </aside>
      </div>
    </>
  );
}

function List({
  title,
  empty,
  rows,
  children,
}: {
  title: string;
  empty: string;
  rows: OutlookRow[];
  children: (row: OutlookRow) => React.ReactNode;
}) {
  const id = title.toLowerCase().replaceAll(" ", "-");
  return (
    <section aria-labelledby={id} className="panel p-4">
      <h2 id={id} className="text-lg">
        {title}
      </h2>
      {rows.length === 0 ? (
        <p className="mt-1">{empty}</p>
      ) : (
        <ul className="mt-2 divide-y divide-line border-t border-line">
          {rows.map((row) => (
            <li key={row.itemId} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
              <div className="min-w-0 basis-48">
                <Link to={`/stores/items/${encodeURIComponent(row.itemId)}`} className="font-semibold wrap-anywhere">
                  {row.name}
                </Link>
                <p className="figure text-sm text-ink-soft">{quantity(row.onHand, row.unit)} there</p>
              </div>
              {children(row)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
