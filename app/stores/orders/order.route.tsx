import { Link, redirect, useNavigation } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import { answerTo } from "~/kit/forms/answer-to";
import { Refusal } from "~/kit/refusal";
import { form, formAction, leadForm, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { itemMeant } from "~/stores/items/catalogue.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { addLineSchema, arrivedSchema, lineSchema } from "~/stores/items/stores-schemas";
import { OnDay } from "~/ui/day";
import { Notice } from "~/ui/notice";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/order.route";
import { addToDraft, changeLine } from "./order-draft.server";
import { AddLine, Arrival, OrderActions, OrderLines } from "./order-parts";
import { ORDER_WORDS } from "./order-words";
import { getOrder } from "./orders.server";
import { receiveOrder } from "./receive-order.server";
import { sendOrder, setOrderAside } from "./send-order.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Order, ${data.order.supplierName}`, "Order") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    return { ...(await getOrder(params.orderId)), today: (await firmDay(new Date())).on };
  });
}

export function action(args: Route.ActionArgs) {
  const { orderId } = args.params;
  const back = () => redirect(`/stores/orders/${orderId}`);
  const setAside = (as: "cancelled" | "draft") =>
    form(NOTHING, async (_, who, now) => {
      await setOrderAside(who, orderId, as, now);
      return redirect("/stores/orders");
    });
  return formAction(args, {
    add: form(addLineSchema, async ({ item, packs }, who, now) => {
      const { id: itemId } = await itemMeant(item);
      return redirect(`/stores/orders/${await addToDraft(who, { itemId, packs, machineId: null }, now)}`);
    }),
    line: form(lineSchema, async ({ line, packs, tag }, who, now) => {
      await changeLine(who, orderId, line, { packs, tag: tag ?? null }, now);
      return back();
    }),
    send: leadForm("A lead sends orders. This one waits as it is.", NOTHING, async (_, who, now) => {
      const { status, fault } = await sendOrder(who, orderId, now);
      if (status === "sent") return back();
      throw new Refusal(
        502,
        status,
        status === "refused"
          ? `The supplier refused it: ${fault ?? ""}`
          : `${fault ?? ""} Nobody knows whether the order arrived. Send it again when you like: it stays one order.`,
      );
    }),
    cancelled: setAside("cancelled"),
    draft: setAside("draft"),
    receive: form(arrivedSchema, async ({ lines }, who, now) => {
      const arrived = lines.map(({ line, packs, lot, expiresOn }) => ({
        lineId: line,
        packs,
        lot: lot ?? null,
        expiresOn: expiresOn ?? null,
      }));
      await receiveOrder(who, orderId, arrived, now);
      const after = await getOrder(orderId);
      await refreshOutlook(now, [...new Set(after.lines.map((line) => line.itemId))]);
      return back();
    }),
  });
}

export default function StoreOrder({ loaderData, actionData }: Route.ComponentProps) {
  const { order, lines, today } = loaderData;
  const lead = useIsLead();
  const navigation = useNavigation();
  const sending = navigation.state !== "idle" && navigation.formData?.get("intent") === "send";
  const errors = (name: string): Record<string, string[]> => answerTo(actionData, name).errors;
  const draft = order.status === "draft";
  const arriving = order.status === "sent" || order.status === "partly";
  return (
    <>
      <StoreNav />
      <p className="text-sm">
        <Link to="/stores/orders">Orders</Link>
      </p>
      <h1 className="mt-1 text-2xl wrap-anywhere">{order.supplierName}</h1>
      <p className="mb-4 text-ink-soft">
        <strong className="text-ink">{ORDER_WORDS[order.status]}</strong>, to {order.placeName}
        {order.supplierRef && <span className="figure"> · {order.supplierRef}</span>}
        {order.expectedOn && arriving && (
          <>
            {" "}
            · expected <OnDay on={order.expectedOn} />
          </>
        )}
      </p>
      {(actionData?.message ?? order.fault) && (
        <div className="mb-4">
          <Notice tone="problem">{actionData?.message ?? order.fault}</Notice>
        </div>
      )}
      <OrderLines lines={lines} actionData={actionData} draft={draft} order={order} />
      <AddLine draft={draft} errors={errors} />
      <OrderActions draft={draft} order={order} lead={lead} lines={lines} sending={sending} />
      <Arrival arriving={arriving} lines={lines} errors={errors} today={today} />
    </>
  );
}
