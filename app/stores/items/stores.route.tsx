import { Form, Link, redirect } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { listPlaces } from "~/stores/ledger/places.server";
import { listKits } from "~/stores/load/kits.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/stores.route";
import { itemMeant } from "./catalogue.server";
import { ItemPicker } from "./item-picker";
import { refreshOutlook } from "./outlook.server";
import { storesHome } from "./overview.server";
import { StoreNav } from "./store-nav";
import { CountsWanted, KitsLow, PlacesList, RunningOut } from "./stores-parts";
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
      <PageHead title="Stores" />
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
        <RunningOut order={order} today={today} likely={likely} expiring={expiring} />
        <aside className="min-w-0 space-y-5">
          <CountsWanted counts={counts} />
          <KitsLow low={low} />
          <PlacesList places={places} />
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
