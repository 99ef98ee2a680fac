import { Link, redirect, useNavigation } from "react-router";

import { changesOf } from "~/kit/server/audit.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { LedgerTable } from "~/stores/ledger/ledger-table";
import { listPlaces } from "~/stores/ledger/places.server";
import { moveStock, receive, scrap } from "~/stores/ledger/stock.server";
import { addToDraft } from "~/stores/orders/order-draft.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/item.route";
import { Bookings, ItemFacts, OnHand } from "./item-parts";
import { refreshOutlook } from "./outlook.server";
import { itemView } from "./overview.server";
import { StoreNav } from "./store-nav";
import { addPacksSchema, beforeSchema, moveSchema, receiveSchema, scrapSchema } from "./stores-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.item.name, "Item") },
];

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const { before } = readQuery(request, beforeSchema);
    const view = await itemView(params.itemId, before ?? null, new Date());
    return { ...view, allPlaces: await listPlaces(), changes: await changesOf("item", [params.itemId]) };
  });
}

export function action(args: Route.ActionArgs) {
  const { itemId } = args.params;
  const back = async (now: Date): Promise<Response> => {
    await refreshOutlook(now, [itemId]);
    return redirect(`/stores/items/${encodeURIComponent(itemId)}`);
  };
  return formAction(args, {
    receive: form(receiveSchema, async ({ place, qty, lot, expiresOn, note }, who, now) => {
      const what = { itemId, placeId: place, qty, lot: lot ?? null, expiresOn: expiresOn ?? null, note: note ?? "" };
      await receive(who, what, now);
      return back(now);
    }),
    move: form(moveSchema, async ({ from, to, qty, note }, who, now) => {
      await moveStock(who, { itemId, from, to, qty, note: note ?? "" }, now);
      return back(now);
    }),
    scrap: form(scrapSchema, async ({ place, qty, lot, note }, who, now) => {
      await scrap(who, { itemId, placeId: place, qty, lotId: lot ?? null, note }, now);
      return back(now);
    }),
    order: form(addPacksSchema, async ({ packs }, who, now) =>
      redirect(`/stores/orders/${await addToDraft(who, { itemId, packs, machineId: null }, now)}`),
    ),
  });
}

export default function StoreItem({ loaderData, actionData }: Route.ComponentProps) {
  const {
    item,
    supplierName,
    leadDays,
    seenUntil,
    places,
    outlook,
    alternatives,
    ledger,
    next,
    fitted,
    today,
    allPlaces,
    changes,
  } = loaderData;
  const lead = useIsLead();
  const busy = useNavigation().state !== "idle";
  const all = places.reduce((sum, one) => sum + one.onHand, 0);
  const errors = (form: string): Record<string, string[]> => (actionData?.form === form ? actionData.errors : {});
  const known = (form: string): boolean => Object.keys(errors(form)).length > 0;
  return (
    <div aria-busy={busy}>
      <StoreNav />
      <PageHead
        title={item.name}
        subtitle={
          <>
            {item.kind}
            {item.scanCode && <span className="figure"> · {item.scanCode}</span>}
            {!item.active && <strong> · not kept any more</strong>}
          </>
        }
      >
        {lead && (
          <Link to="edit" className="btn">
            Change it
          </Link>
        )}
      </PageHead>
      {actionData?.message && (
        <div className="mb-4">
          <Notice tone="problem">{actionData.message}</Notice>
        </div>
      )}

      <OnHand
        all={all}
        item={item}
        outlook={outlook}
        today={today}
        seenUntil={seenUntil}
        leadDays={leadDays}
        places={places}
      />

      <div className="grid gap-5 lg:grid-cols-[1fr_20rem]">
        <Section id="ledger" title="Ledger" panel className="min-w-0">
          <LedgerTable lines={ledger} unit={item.unit} />
          {next !== null && (
            <Link to={`?before=${next}`} className="btn mt-3" preventScrollReset>
              Older
            </Link>
          )}
        </Section>
        <aside className="no-print min-w-0 space-y-4">
          <Bookings
            allPlaces={allPlaces}
            known={known}
            errors={errors}
            item={item}
            today={today}
            places={places}
            outlook={outlook}
          />
          <ItemFacts
            item={item}
            supplierName={supplierName}
            leadDays={leadDays}
            alternatives={alternatives}
            fitted={fitted}
            changes={changes}
          />
        </aside>
      </div>
    </div>
  );
}
