import { type DepotRow, getDb } from "@db";

export type Depot = DepotRow;

/** The firm's depot; without one the round begins and ends at the first site. */
export async function depotPlace(): Promise<Depot | null> {
  return getDb().models.Depot.findOne({ order: ["name"], raw: true });
}
