import { addDays } from "@core";
import { data, Form, Link, redirect, useNavigation } from "react-router";

import { DAY } from "~/kit/day-pattern";
import type { FormAnswer } from "~/kit/form-answer";
import { readForm, refusalAnswer } from "~/kit/form-answer.server";
import { textOf } from "~/kit/form-text";
import { money, quantity } from "~/kit/quantity";
import { served } from "~/kit/served.server";
import { actorOf } from "~/people/session.server";
import { useIsLead } from "~/people/use-me";
import { itemMeant } from "~/stores/items/catalogue.server";
import { ItemPicker } from "~/stores/items/item-picker";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { StoreNav } from "~/stores/items/store-nav";
import { addLineSchema, lineSchema } from "~/stores/items/stores-schemas";
import { Notice } from "~/ui/notice";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/order.route";
import { ORDER_WORDS } from "./order-words";
import { addToDraft, changeLine, getOrder, receiveOrder, sendOrder, setOrderAside } from "./orders.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Order, ${loaderData?.order.supplierName ?? ""} – Humble Hound` },
];

export async function loader({ params }: Route.LoaderArgs) {
  return { ...(await served(getOrder(params.orderId))), today: new Date().toISOString().slice(0, 10) };
}

const wrong = (answer: FormAnswer) => data(answer, { status: 422 });
const WHOLE = /^\d{1,5}$/;

export async function action({ params, request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const now = new Date();
  const formData = await request.formData();
  const form = textOf(formData, "intent", 20);
  const { orderId } = params;
  const back = () => redirect(`/stores/orders/${orderId}`);
  try {
    switch (form) {
      case "add": {
        const read = readForm(form, formData, addLineSchema);
        if ("answer" in read) return wrong(read.answer);
        const item = await itemMeant(read.values.item);
        return redirect(
          `/stores/orders/${await addToDraft(actor, { itemId: item.id, packs: read.values.packs, machineId: null }, now)}`,
        );
      }
      case "line": {
        const read = readForm(form, formData, lineSchema);
        if ("answer" in read) return wrong({ ...read.answer, form: `line-${textOf(formData, "line", 36)}` });
        try {
          await changeLine(
            actor,
            orderId,
            read.values.line,
            { packs: read.values.packs, tag: read.values.tag ?? null },
            now,
          );
        } catch (error) {
          return wrong(refusalAnswer(`line-${read.values.line}`, error));
        }
        return back();
      }
      case "send": {
        if (actor.role !== "lead")
          return wrong({ form, errors: {}, message: "A lead sends orders. This one waits as it is." });
        const { status, fault } = await sendOrder(actor, orderId, now);
        if (status === "sent") return back();
        return wrong({
          form,
          errors: {},
          message:
            status === "refused"
              ? `The supplier refused it: ${fault}`
              : `${fault} Nobody knows whether the order arrived. Send it again when you like: it stays one order.`,
        });
      }
      case "cancelled":
      case "draft":
        await setOrderAside(actor, orderId, form, now);
        return redirect("/stores/orders");
      case "receive": {
        const arrived = [...formData.keys()]
          .filter((name) => name.startsWith("packs-"))
          .map((name) => {
            const lineId = name.slice(6);
            return {
              lineId,
              text: textOf(formData, name, 10).trim(),
              lot: textOf(formData, `lot-${lineId}`, 60).trim() || null,
              expiresOn: textOf(formData, `expires-${lineId}`, 10).trim() || null,
            };
          });
        const errors: FormAnswer["errors"] = {};
        for (const { lineId, text, expiresOn } of arrived) {
          if (text !== "" && !WHOLE.test(text)) errors[`packs-${lineId}`] = ["Whole packs, please."];
          if (expiresOn !== null && !DAY.test(expiresOn))
            errors[`expires-${lineId}`] = ["Write the day as YYYY-MM-DD."];
        }
        if (Object.keys(errors).length > 0) return wrong({ form, errors });
        await receiveOrder(
          actor,
          orderId,
          arrived.map(({ text, ...one }) => ({ ...one, packs: Number(text || 0) })),
          now,
        );
        const { lines } = await getOrder(orderId);
        await refreshOutlook(now, [...new Set(lines.map((line) => line.itemId))]);
        return back();
      }
      default:
        return wrong({ form, errors: {}, message: "This form is not known. Load the page again." });
    }
  } catch (error) {
    return wrong(refusalAnswer(form, error));
  }
}

export default function StoreOrder({ loaderData, actionData }: Route.ComponentProps) {
  const { order, lines, today } = loaderData;
  const lead = useIsLead();
  const navigation = useNavigation();
  const sending = navigation.state !== "idle" && navigation.formData?.get("intent") === "send";
  const errors = (form: string): Record<string, string[]> => (actionData?.form === form ? actionData.errors : {});
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
            · expected <span className="figure">{order.expectedOn}</span>
          </>
        )}
      </p>
      {(actionData?.message ?? order.fault) && (
        <div className="mb-4">
          <Notice tone="problem">{actionData?.message ?? order.fault}</Notice>
        </div>
      )}
      {lines.length === 0 ? (
        <p className="panel mb-4 p-5">Nothing is on this order. Add an item below.</p>
      ) : (
        <ul className="panel mb-4 divide-y divide-line">
          {lines.map((line) => {
            const wrongs = errors(`line-${line.id}`);
            return (
              <li key={line.id} className="flex flex-wrap items-end justify-between gap-x-5 gap-y-2 px-4 py-3">
                <div className="min-w-0 flex-1 basis-60">
                  <Link to={`/stores/items/${encodeURIComponent(line.itemId)}`} className="font-semibold wrap-anywhere">
                    {line.itemName}
                  </Link>
                  <p className="text-sm text-ink-soft wrap-anywhere">
                    <span className="figure">{line.orderCode}</span> {line.packName || "pack"} of{" "}
                    {quantity(line.packSize, line.unit)}, <span className="figure">{money(line.packPriceCents)}</span>
                  </p>
                  {line.machineName && (
                    <p className="text-sm wrap-anywhere">
                      For {line.machineName}: model {line.model || "–"}, serial{" "}
                      {line.serial ? (
                        <span className="figure">{line.serial}</span>
                      ) : (
                        <strong>! not in the register</strong>
                      )}
                    </p>
                  )}
                  {line.needsSerial && !line.machineName && (
                    <p className="text-sm font-semibold">! Ordered by model and serial: say for which machine.</p>
                  )}
                  {line.fault && <p className="text-sm font-semibold">! {line.fault}</p>}
                </div>
                {draft ? (
                  <Form method="post" className="flex flex-wrap items-end gap-2">
                    <input type="hidden" name="line" value={line.id} />
                    <PlainField
                      id={`packs-of-${line.id}`}
                      name="packs"
                      label="Packs"
                      inputMode="numeric"
                      defaultValue={String(line.packs)}
                      answer={wrongs.packs}
                      className="w-20"
                    />
                    {line.needsSerial && (
                      <PlainField
                        id={`tag-of-${line.id}`}
                        name="tag"
                        label="Machine tag"
                        placeholder="HH-…"
                        answer={wrongs.tag}
                        className="w-32"
                      />
                    )}
                    <button className="btn" name="intent" value="line" aria-label={`Change ${line.itemName}`}>
                      Change
                    </button>
                  </Form>
                ) : (
                  <p className="text-right">
                    <span className="figure">{line.packs}</span> {line.packs === 1 ? "pack" : "packs"}
                    {line.promisedPacks !== null && line.promisedPacks < line.packs && (
                      <strong className="block text-sm">! only {line.promisedPacks} promised</strong>
                    )}
                    <span className="block text-sm text-ink-soft">{line.receivedPacks} here</span>
                  </p>
                )}
              </li>
            );
          })}
          <li className="px-4 py-3 text-right">
            <span className="figure font-semibold">{money(order.cents)}</span>
          </li>
        </ul>
      )}
      {draft && (
        <Form method="post" className="mb-4 flex flex-wrap items-end gap-2">
          <div className="w-64 max-w-full">
            <ItemPicker id="add-item" label="Add an item of this supplier" answer={errors("add").item} />
          </div>
          <PlainField
            id="add-packs"
            name="packs"
            label="Packs"
            inputMode="numeric"
            defaultValue="1"
            answer={errors("add").packs}
            className="w-20"
          />
          <button className="btn" name="intent" value="add">
            Add
          </button>
        </Form>
      )}
      <div className="no-print mb-5 flex flex-wrap gap-3">
        {(draft || order.status === "sending") && lead && lines.length > 0 && (
          <Form method="post">
            <button className="btn btn-main" name="intent" value="send" disabled={sending}>
              {sending
                ? "Sending …"
                : order.online
                  ? draft
                    ? "Send the order"
                    : "Send it again"
                  : "It has been sent by file or mail"}
            </button>
          </Form>
        )}
        {!lead && draft && <p className="self-center text-sm text-ink-soft">A lead sends it.</p>}
        <a href={`/stores/orders/${order.id}/csv`} className="btn">
          As a file
        </a>
        {(draft || order.status === "refused") && (
          <Form method="post">
            <button className="btn" name="intent" value="cancelled">
              Set it aside
            </button>
          </Form>
        )}
        {order.status === "refused" && (
          <Form method="post">
            <button className="btn" name="intent" value="draft">
              Make a new draft of it
            </button>
          </Form>
        )}
      </div>
      {arriving && (
        <Form method="post" className="panel space-y-3 p-4">
          <h2 className="text-lg">What has arrived</h2>
          {lines
            .filter((line) => line.receivedPacks < line.packs)
            .map((line) => (
              <fieldset key={line.id} className="border-b border-line pb-3">
                <legend className="font-semibold wrap-anywhere">
                  {line.itemName}{" "}
                  <span className="text-sm font-normal text-ink-soft">{line.packs - line.receivedPacks} to come</span>
                </legend>
                <div className="mt-1 flex flex-wrap items-end gap-3">
                  <PlainField
                    id={`packs-${line.id}`}
                    name={`packs-${line.id}`}
                    label="Packs"
                    className="w-24"
                    inputMode="numeric"
                    answer={errors("receive")[`packs-${line.id}`]}
                  />
                  <PlainField
                    id={`lot-${line.id}`}
                    name={`lot-${line.id}`}
                    label="Lot"
                    maxLength={60}
                    answer={errors("receive")[`lot-${line.id}`]}
                  />
                  <PlainField
                    id={`expires-${line.id}`}
                    name={`expires-${line.id}`}
                    label="Expires"
                    type="date"
                    answer={errors("receive")[`expires-${line.id}`]}
                    {...(line.shelfLifeDays ? { hint: `Usually ${addDays(today, line.shelfLifeDays)}` } : {})}
                  />
                </div>
              </fieldset>
            ))}
          <button className="btn btn-main" name="intent" value="receive">
            Put it on the shelf
          </button>
        </Form>
      )}
    </>
  );
}
