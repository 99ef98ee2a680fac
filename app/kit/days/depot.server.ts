import { getDb, type Transaction } from "@db";

/** The firm's depot; without one the round begins and ends at the first site. */
export async function depotPlace(tx?: Transaction): Promise<Depot | null> {
  const [depot] = await getDb().select<Depot>(
    `SELECT id, name, latitude, longitude, time_zone AS timeZone FROM depots ORDER BY name LIMIT 1 ${tx ? "FOR UPDATE" : ""}`,
    {},
    tx,
  );
  return depot ?? null;
}

export interface Depot {
  id: string;
  name: string;
  timeZone: string;
  latitude: number;
  longitude: number;
}
