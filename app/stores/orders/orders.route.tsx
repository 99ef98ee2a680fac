import { Form, Link, redirect } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import { money } from "~/kit/forms/quantity";
import { pageSchema } from "~/kit/forms/search-schemas";
import { Refusal } from "~/kit/refusal";
import { form, formAction, leadForm, NOTHING } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { addSupplier, itemMeant, listSuppliers } from "~/stores/items/catalogue.server";
import { ItemPicker } from "~/stores/items/item-picker";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { addLineSchema, supplierSchema } from "~/stores/items/stores-schemas";
import { Notice } from "~/ui/notice";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/orders.route";
import { ORDER_WORDS } from "./order-words";
import { addToDraft, draftOrders, listOrders, takePrices } from "./orders.server";

export const meta = () => [{ title: "Orders – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    return { ...(await listOrders(readQuery(request, pageSchema).after ?? null)), suppliers: await listSuppliers() };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    add: form(addLineSchema, async ({ item, packs }, who, now) => {
      const { id: itemId } = await itemMeant(item);
      return redirect(`/stores/orders/${await addToDraft(who, { itemId, packs, machineId: null }, now)}`);
    }),
    draft: form(NOTHING, async (_, who, now) => {
      await refreshOutlook(now);
      const { orders, lines, without } = await draftOrders(who, now);
      const rest = without.length > 0 ? ` Without a supplier: ${without.slice(0, 8).join(", ")}.` : "";
      const [only] = orders;
      if (only !== undefined && orders.length === 1 && without.length === 0) return redirect(`/stores/orders/${only}`);
      return lines === 0
        ? `Nothing is to be ordered within a week that is not on order already.${rest}`
        : `${lines} lines on ${orders.length} drafts.${rest}`;
    }),
    supplier: leadForm(
      "A lead adds suppliers.",
      supplierSchema,
      async ({ name, email, leadDays, online }, who, now) => {
        await addSupplier(who, { name, email: email ?? "", leadDays, code: online ? "online" : "" }, now);
        return `${name} is there now: say in the catalogue what comes from it.`;
      },
    ),
    prices: form(NOTHING, async (_, who, now) => {
      const taken = await takePrices(who, now);
      if (taken === null)
        throw new Refusal(502, "supplier", "The supplier's catalogue cannot be had now. The prices stay as they are.");
      return taken.changed === 0
        ? "Prices and lead times are as they were."
        : `${taken.changed} items have new prices or lead times.`;
    }),
  });
}

export default function StoreOrders({ loaderData, actionData }: Route.ComponentProps) {
  const { rows, next, suppliers } = loaderData;
  const lead = useIsLead();
  const { errors } = answerTo(actionData, "add");
  const { errors: wrong } = answerTo(actionData, "supplier");
  return (
    <>
      <h1 className="mb-2 text-2xl">Orders</h1>
      <StoreNav />
      {(actionData?.message ?? actionData?.said) && (
        <div className="mb-4">
          <Notice tone={actionData?.message ? "problem" : "plain"}>{actionData?.message ?? actionData?.said}</Notice>
        </div>
      )}
      <div className="mb-5 flex flex-wrap items-end gap-3">
        <Form method="post">
          <button className="btn btn-main" name="intent" value="draft">
            Make drafts of what is due
          </button>
        </Form>
        <Form method="post">
          <button className="btn" name="intent" value="prices">
            Take over prices
          </button>
        </Form>
        <Form method="post" className="flex flex-wrap items-end gap-2">
          <div className="w-64 max-w-full">
            <ItemPicker id="order-item" label="Or one item" answer={errors.item} />
          </div>
          <PlainField
            id="order-packs"
            name="packs"
            label="Packs"
            inputMode="numeric"
            defaultValue="1"
            answer={errors.packs}
            className="w-20"
          />
          <button className="btn" name="intent" value="add">
            Put it on a draft
          </button>
        </Form>
      </div>
      {rows.length === 0 ? (
        <p className="panel p-5">No orders yet. Drafts are made from what runs out, by supplier.</p>
      ) : (
        <ul className="panel divide-y divide-line">
          {rows.map((order) => (
            <li key={order.id} className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 px-4 py-2.5">
              <div className="min-w-0">
                <Link to={`/stores/orders/${order.id}`} className="font-semibold wrap-anywhere">
                  {order.supplierName}
                </Link>
                <span className="text-ink-soft">
                  {" "}
                  <span className="figure">{order.madeAt.toISOString().slice(0, 10)}</span>
                  {order.supplierRef && <span className="figure"> · {order.supplierRef}</span>}
                </span>
                {order.fault && <p className="text-sm wrap-anywhere">! {order.fault}</p>}
              </div>
              <p className="text-right">
                <strong>{ORDER_WORDS[order.status]}</strong>
                {order.expectedOn && (order.status === "sent" || order.status === "partly") && (
                  <>
                    , expected <span className="figure">{order.expectedOn}</span>
                  </>
                )}
                <span className="block text-sm text-ink-soft">
                  {order.lines} {order.lines === 1 ? "line" : "lines"},{" "}
                  <span className="figure">{money(order.cents)}</span>
                </span>
              </p>
            </li>
          ))}
        </ul>
      )}
      {next && (
        <Link to={`?after=${encodeURIComponent(next)}`} className="btn mt-3">
          More
        </Link>
      )}
      <section aria-labelledby="suppliers" className="panel mt-6 p-4">
        <h2 id="suppliers" className="text-lg">
          Suppliers
        </h2>
        <ul className="mt-1">
          {suppliers.map((one) => (
            <li key={one.id} className="wrap-anywhere">
              {one.name}, {one.leadDays} days{one.code ? ", over the network" : ", by file or mail"}
              {one.email && <span className="text-ink-soft"> {one.email}</span>}
            </li>
          ))}
        </ul>
        {suppliers.length === 0 && <p>None yet. {lead ? "Add the first." : "A lead adds them."}</p>}
        {lead && (
          <details className="mt-2" open={Object.keys(wrong).length > 0 || undefined}>
            <summary className="min-h-8 font-semibold">Add a supplier</summary>
            <Form method="post" className="mt-2 flex flex-wrap items-end gap-3">
              <PlainField id="s-name" name="name" label="Name" maxLength={160} answer={wrong.name} />
              <PlainField id="s-email" name="email" label="E-mail" type="email" maxLength={160} answer={wrong.email} />
              <PlainField
                id="s-days"
                name="leadDays"
                label="Days to come"
                inputMode="numeric"
                answer={wrong.leadDays}
                className="w-32"
              />
              <label className="flex min-h-11 items-center gap-2">
                <input type="checkbox" name="online" className="size-6" />
                takes orders over the network
              </label>
              <button className="btn" name="intent" value="supplier">
                Add it
              </button>
            </Form>
          </details>
        )}
      </section>
    </>
  );
}
