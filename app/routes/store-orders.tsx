import { data, Form, Link, redirect } from "react-router";
import { Notice } from "~/components/notice";
import { itemMeant } from "~/services/stores/catalogue.server";
import { addToDraft, draftOrders, listOrders, takePrices } from "~/services/stores/orders.server";
import { refreshOutlook } from "~/services/stores/outlook.server";
import { actorOf } from "~/session.server";
import { textOf } from "~/shared/form-text";
import { money } from "~/shared/quantity";
import { addLineSchema } from "~/shared/stores-schemas";
import { readForm, refusalAnswer } from "~/form-answer.server";
import { ItemPicker } from "~/stores/item-picker";
import { ORDER_WORDS } from "~/stores/order-words";
import { PlainField, type FormAnswer } from "~/stores/plain-field";
import { StoreNav } from "~/stores/store-nav";
import type { Route } from "./+types/store-orders";

export const meta = () => [{ title: "Orders – Humble Hound" }];

export async function loader({ request }: Route.LoaderArgs) {
  return listOrders(new URL(request.url).searchParams.get("after"));
}

const said = (message: string, status = 200) => data<FormAnswer>({ form: "", errors: {}, message }, { status });

export async function action({ request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const now = new Date();
  const formData = await request.formData();
  const form = textOf(formData, "intent", 20);
  try {
    switch (form) {
      case "draft": {
        await refreshOutlook(now);
        const { orders, lines, without } = await draftOrders(actor, now);
        const rest = without.length > 0 ? ` Without a supplier: ${without.slice(0, 8).join(", ")}.` : "";
        if (orders.length === 1 && without.length === 0) return redirect(`/stores/orders/${orders[0]}`);
        return said(
          lines === 0 ? `Nothing is to be ordered within a week that is not on order already.${rest}` : `${lines} lines on ${orders.length} drafts.${rest}`,
        );
      }
      case "prices": {
        const taken = await takePrices(actor, now);
        return taken === null
          ? said("The supplier's catalogue cannot be had now. The prices stay as they are.", 502)
          : said(taken.changed === 0 ? "Prices and lead times are as they were." : `${taken.changed} items have new prices or lead times.`);
      }
      default: {
        const read = readForm("add", formData, addLineSchema);
        if ("answer" in read) return data(read.answer, { status: 422 });
        const item = await itemMeant(read.values.item);
        return redirect(`/stores/orders/${await addToDraft(actor, { itemId: item.id, packs: read.values.packs, machineId: null }, now)}`);
      }
    }
  } catch (error) {
    return data(refusalAnswer("add", error), { status: 422 });
  }
}

export default function StoreOrders({ loaderData, actionData }: Route.ComponentProps) {
  const { rows, next } = loaderData;
  const errors: Record<string, string[]> = actionData?.errors ?? {};
  return (
    <>
      <h1 className="mb-2 text-2xl">Orders</h1>
      <StoreNav />
      {actionData?.message && !errors.item && (
        <div className="mb-4">
          <Notice>{actionData.message}</Notice>
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
          <PlainField id="order-packs" name="packs" label="Packs" inputMode="numeric" defaultValue="1" answer={errors.packs} className="w-20" />
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
                  {order.lines} {order.lines === 1 ? "line" : "lines"}, <span className="figure">{money(order.cents)}</span>
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
    </>
  );
}
