import { addDays } from "@core";
import { Form, Link } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import { money, quantity } from "~/kit/forms/quantity";
import { ItemPicker } from "~/stores/items/item-picker";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/order.route";

type Data = Route.ComponentProps["loaderData"];

export function OrderLines({
  lines,
  actionData,
  draft,
  order,
}: {
  lines: Data["lines"];
  actionData: Route.ComponentProps["actionData"];
  draft: boolean;
  order: Data["order"];
}) {
  return lines.length === 0 ? (
    <p className="panel mb-4 p-5">Nothing is on this order. Add an item below.</p>
  ) : (
    <ul className="panel mb-4 divide-y divide-line">
      {lines.map((line) => {
        const wrongs = answerTo(actionData, "line", ["line", line.id]).errors;
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
                  {line.serial ? <span className="figure">{line.serial}</span> : <strong>! not in the register</strong>}
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
  );
}

export function AddLine({ draft, errors }: { draft: boolean; errors: (name: string) => Record<string, string[]> }) {
  if (!draft) return null;
  return (
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
  );
}

export function OrderActions({
  draft,
  order,
  lead,
  lines,
  sending,
}: {
  draft: boolean;
  order: Data["order"];
  lead: boolean;
  lines: Data["lines"];
  sending: boolean;
}) {
  return (
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
  );
}

/** What arrived, by lot. */
export function Arrival({
  arriving,
  lines,
  errors,
  today,
}: {
  arriving: boolean;
  lines: Data["lines"];
  errors: (name: string) => Record<string, string[]>;
  today: Data["today"];
}) {
  if (!arriving) return null;
  return (
    <Form method="post" className="panel space-y-3 p-4">
      <h2 className="text-lg">What has arrived</h2>
      {lines
        .filter((line) => line.receivedPacks < line.packs)
        .map((line, i) => (
          <fieldset key={line.id} className="border-b border-line pb-3">
            <legend className="font-semibold wrap-anywhere">
              {line.itemName}{" "}
              <span className="text-sm font-normal text-ink-soft">{line.packs - line.receivedPacks} to come</span>
            </legend>
            <div className="mt-1 flex flex-wrap items-end gap-3">
              <input type="hidden" name={`lines[${i}].line`} value={line.id} />
              <PlainField
                id={`packs-${line.id}`}
                name={`lines[${i}].packs`}
                label="Packs"
                className="w-24"
                inputMode="numeric"
                answer={errors("receive")[`lines[${i}].packs`]}
              />
              <PlainField
                id={`lot-${line.id}`}
                name={`lines[${i}].lot`}
                label="Lot"
                maxLength={60}
                answer={errors("receive")[`lines[${i}].lot`]}
              />
              <PlainField
                id={`expires-${line.id}`}
                name={`lines[${i}].expiresOn`}
                label="Expires"
                type="date"
                answer={errors("receive")[`lines[${i}].expiresOn`]}
                {...(line.shelfLifeDays ? { hint: `Usually ${addDays(today, line.shelfLifeDays)}` } : {})}
              />
            </div>
          </fieldset>
        ))}
      <button className="btn btn-main" name="intent" value="receive">
        Put it on the shelf
      </button>
    </Form>
  );
}
