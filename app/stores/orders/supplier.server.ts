import { isDay } from "~/kit/days/is-day";
import { logError } from "~/kit/server/log.server";

/** What a supplier answered to an order. */
export type SupplierAnswer =
  | { kind: "taken"; ref: string; expectedOn: string | null; promised: Record<string, number> }
  | { kind: "refused"; fault: string; lines: Record<string, string> }
  /** Nobody knows whether the order arrived: it may be sent again under the same key. */
  | { kind: "unclear"; fault: string };

export interface SupplierOrder {
  /** Idempotency key: the same order sent twice stays one. */
  key: string;
  deliverTo: string;
  lines: { code: string; packs: number; machine?: { model: string; serial: string } }[];
}

export interface SupplierItem {
  code: string;
  name: string;
  packName: string;
  packPriceCents: number;
  stock: number;
  leadDays: number;
}

/** Milliseconds waited for an answer. */
const patience = (): number => Number(process.env.SUPPLIER_TIMEOUT_MS ?? 8000);

/** The supplier's address comes from the configuration alone; null when there is none. */
export function supplierUrl(): string | null {
  return process.env.SUPPLIER_URL ?? null;
}

/** Sends an order; whatever goes wrong on the way is an answer, never an error. */
export async function sendToSupplier(order: SupplierOrder): Promise<SupplierAnswer> {
  const url = supplierUrl();
  if (url === null) return { kind: "unclear", fault: "No supplier is connected. Send the order as a file." };
  try {
    const response = await fetch(new URL("/orders", url), {
      method: "POST",
      headers: { "Content-Type": "application/json", "Idempotency-Key": order.key },
      body: JSON.stringify({ deliverTo: order.deliverTo, lines: order.lines }),
      signal: AbortSignal.timeout(patience()),
    });
    const body = (await response.json()) as unknown;
    if (response.status === 422) return refusalOf(body);
    if (!response.ok) return { kind: "unclear", fault: `The supplier answered ${response.status}.` };
    return takenOf(body, order) ?? { kind: "unclear", fault: "The supplier's answer cannot be read." };
  } catch (error) {
    const slow = (error as Error).name === "TimeoutError";
    logError(`Supplier: ${(error as Error).message}`);
    return {
      kind: "unclear",
      fault: slow
        ? "The supplier did not answer in time."
        : "The supplier could not be reached, or the connection broke.",
    };
  }
}

function takenOf(body: unknown, order: SupplierOrder): SupplierAnswer | null {
  const { ref, expectedOn, lines } = (body ?? {}) as { ref?: unknown; expectedOn?: unknown; lines?: unknown };
  if (typeof ref !== "string" || ref === "" || !Array.isArray(lines)) return null;
  const promised: Record<string, number> = {};
  for (const line of lines as { code?: unknown; promised?: unknown }[]) {
    if (
      typeof line.code !== "string" ||
      typeof line.promised !== "number" ||
      !Number.isInteger(line.promised) ||
      line.promised < 0
    )
      return null;
    promised[line.code] = line.promised;
  }
  if (order.lines.some((line) => promised[line.code] === undefined)) return null;
  return {
    kind: "taken",
    ref: ref.slice(0, 80),
    expectedOn: typeof expectedOn === "string" && isDay(expectedOn) ? expectedOn : null,
    promised,
  };
}

function refusalOf(body: unknown): SupplierAnswer {
  const { fault, lines } = (body ?? {}) as { fault?: unknown; lines?: unknown };
  const faults: Record<string, string> = {};
  if (Array.isArray(lines))
    for (const line of lines as { code?: unknown; fault?: unknown }[])
      if (typeof line.code === "string" && typeof line.fault === "string") faults[line.code] = line.fault.slice(0, 300);
  return {
    kind: "refused",
    fault: typeof fault === "string" ? fault.slice(0, 500) : "The supplier refused the order without saying why.",
    lines: faults,
  };
}

/** What a supplier has and asks for it; null when it cannot be had now. */
export async function supplierCatalogue(): Promise<SupplierItem[] | null> {
  const url = supplierUrl();
  if (url === null) return null;
  try {
    const response = await fetch(new URL("/catalogue", url), { signal: AbortSignal.timeout(patience()) });
    if (!response.ok) return null;
    const { items } = (await response.json()) as { items?: unknown };
    if (!Array.isArray(items)) return null;
    return (items as SupplierItem[]).filter(
      (one) =>
        typeof one.code === "string" &&
        Number.isInteger(one.packPriceCents) &&
        Number.isInteger(one.stock) &&
        Number.isInteger(one.leadDays),
    );
  } catch {
    return null;
  }
}
