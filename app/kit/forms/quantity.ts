const NUMBER = new Intl.NumberFormat("en", { maximumFractionDigits: 3 });
const MONEY = new Intl.NumberFormat("en", { style: "currency", currency: "EUR" });

/** A quantity in its unit; large volumes and weights in the next larger unit. */
export function quantity(qty: number, unit: string): string {
  if (Math.abs(qty) >= 1000 && unit === "mL") return `${NUMBER.format(Math.round(qty) / 1000)} L`;
  if (Math.abs(qty) >= 1000 && unit === "g") return `${NUMBER.format(Math.round(qty) / 1000)} kg`;
  return `${NUMBER.format(Math.round(qty * 1000) / 1000)} ${unit}`;
}

/** An amount of money from its minor units. */
export function money(cents: number | null): string {
  return cents === null ? "no price" : MONEY.format(cents / 100);
}
