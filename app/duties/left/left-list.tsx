import type { ReactNode } from "react";
import { Link } from "react-router";

import { shortDay } from "~/kit/days/day-time";

import { severityWord } from "./left-words";
import type { OpenItemView } from "./open-items.server";

/** What was left open, one line each: how bad, what, by when, whose, and whether its part is at hand. */
export function LeftList({
  items,
  today,
  action,
}: {
  items: readonly OpenItemView[];
  today: string;
  action?: (one: OpenItemView) => ReactNode;
}) {
  return (
    <ul className="panel divide-y divide-line">
      {items.map((one) => (
        <li key={one.id} className="flex flex-wrap items-center gap-x-4 gap-y-2 px-3 py-2">
          <div className="min-w-48 flex-1">
            <p className="wrap-anywhere">
              {one.severity === "unsafe" && <span aria-hidden="true">! </span>}
              <strong>{severityWord(one.severity)}:</strong> {one.title}
            </p>
            {!one.title.endsWith(one.because) && <p className="text-sm wrap-anywhere">{one.because}</p>}
            <p className="text-sm text-ink-soft wrap-anywhere">{factsOf(one, today).join(" · ")}</p>
            {one.kind === "fit-part" && <p className="text-sm font-semibold wrap-anywhere">{partWords(one)}</p>}
          </div>
          {action?.(one)}
        </li>
      ))}
    </ul>
  );
}

/** By when, whose, and what else is arranged. */
function factsOf(one: OpenItemView, today: string): string[] {
  const needs = one.authorisation ?? (one.who === "licensed" ? "licensed service" : null);
  return [
    `wanted by ${shortDay(one.wantedBy, today)}`,
    ...(one.ownerName ? [one.ownerName] : []),
    ...(needs ? [`takes ${needs}`] : []),
    ...(one.plannedOn && one.plannedOn >= today
      ? [`planned for ${shortDay(one.plannedOn, today)}${one.plannedForName ? `, ${one.plannedForName}` : ""}`]
      : []),
    ...(one.askedWhom ? [`asked ${one.askedWhom}${one.askedOn ? ` on ${shortDay(one.askedOn, today)}` : ""}`] : []),
    ...(one.bookedFor ? [`booked for ${shortDay(one.bookedFor, today)}`] : []),
  ];
}

const HOW_IT_COMES: Record<string, string> = {
  draft: "On an order that has not gone out yet",
  sending: "Being ordered",
  sent: "Ordered",
  partly: "Ordered, partly here",
  received: "Arrived",
  refused: "The supplier refused the order",
  cancelled: "The order was cancelled",
};

/** Where the piece is that it takes. */
export function partWords(one: Pick<OpenItemView, "heldAt" | "orderStatus" | "itemName">): string {
  if (one.heldAt) return `Held for it: ${one.heldAt}`;
  if (one.orderStatus) return `${HOW_IT_COMES[one.orderStatus] ?? one.orderStatus}: none is free`;
  return one.itemName === null ? "Not in the catalogue" : "None is free, and nothing is on order";
}

/** The open items of a machine among its other matters. */
export function LeftSection({
  items,
  today,
  machineId,
}: {
  items: readonly OpenItemView[];
  today: string;
  machineId: string;
}) {
  if (items.length === 0) return null;
  return (
    <section aria-labelledby="left">
      <h2 id="left" className="mb-2 flex flex-wrap items-baseline gap-x-3 text-lg">
        Left open
        <Link to={`/machines/${machineId}/left`} className="text-sm font-normal">
          See to it
        </Link>
      </h2>
      <LeftList items={items} today={today} />
    </section>
  );
}
