import { Form, Link, redirect } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
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
import { PageHead } from "~/ui/page-head";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/orders.route";
import { addToDraft, draftOrders } from "./order-draft.server";
import { listOrders } from "./orders.server";
import { OrderRows, Suppliers } from "./orders-parts";
import { takePrices } from "./receive-order.server";

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
      <PageHead title="Orders" />
      <StoreNav />
      {(actionData?.message ?? actionData?.said) && (
        <div className="mb-4">
          <Notice tone={actionData.message ? "problem" : "plain"}>{actionData.message ?? actionData.said}</Notice>
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
      <OrderRows rows={rows} />
      {next && (
        <Link to={`?after=${encodeURIComponent(next)}`} className="btn mt-3">
          More
        </Link>
      )}
      <Suppliers suppliers={suppliers} lead={lead} wrong={wrong} />
    </>
  );
}
