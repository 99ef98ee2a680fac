import type { OrderStatus } from "./orders.server";

/** How far an order is, in words. */
export const ORDER_WORDS: Record<OrderStatus, string> = {
  draft: "Draft",
  sending: "On its way, not confirmed",
  sent: "Ordered",
  partly: "Partly here",
  received: "All here",
  refused: "Refused",
  cancelled: "Set aside",
};
