import { Form, Link } from "react-router";

import { money } from "~/kit/forms/quantity";
import { Day, OnDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { PlainField } from "~/ui/plain-field";
import { Section } from "~/ui/section";

import type { Route } from "./+types/orders.route";
import { ORDER_WORDS } from "./order-words";

export function OrderRows({ rows }: { rows: Route.ComponentProps["loaderData"]["rows"] }) {
  return rows.length === 0 ? (
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
              <Day at={order.madeAt} />
              {order.supplierRef && <span className="figure"> · {order.supplierRef}</span>}
            </span>
            {order.fault && <p className="text-sm wrap-anywhere">! {order.fault}</p>}
          </div>
          <p className="text-right">
            <strong>{ORDER_WORDS[order.status]}</strong>
            {order.expectedOn && (order.status === "sent" || order.status === "partly") && (
              <>
                , expected <OnDay on={order.expectedOn} />
              </>
            )}
            <span className="block text-sm text-ink-soft">
              {order.lines} {order.lines === 1 ? "line" : "lines"}, <span className="figure">{money(order.cents)}</span>
            </span>
          </p>
        </li>
      ))}
    </ul>
  );
}

export function Suppliers({
  suppliers,
  lead,
  wrong,
}: {
  suppliers: Route.ComponentProps["loaderData"]["suppliers"];
  lead: boolean;
  wrong: Record<string, string[]>;
}) {
  return (
    <Section id="suppliers" title="Suppliers" panel className="mt-6">
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
        <Disclosure title="Add a supplier" look="strong" open={Object.keys(wrong).length > 0} className="mt-2">
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
        </Disclosure>
      )}
    </Section>
  );
}
