import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";

import { addActor, freshDatabase, importLines, publishShipped } from "./database";

/** A Wednesday, early. */
export const NOW = new Date("2026-06-10T07:00:00Z");
export const ON = "2026-06-10";
export const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
export let mo: Actor;
export let kim: Actor;
export let lead: Actor;
export let depot: string;
export const site = new Map<string, string>();

/** A firm with three sites: one open all day, one for an hour, one always; none has been driven to. */
export async function beginRound(): Promise<void> {
  await freshDatabase();
  await publishShipped("all");
  mo = await addActor("Mo");
  kim = await addActor("Kim");
  lead = await addActor("Lea", "lead");
  await importLines(
    lead,
    [
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,D-1,Oven,conveyor-oven,,2026-05-01",
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,D-2,Stainer,slide-stainer,,2026-05-01",
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,D-3,Ice,flake-ice-maker,,2025-05-01",
      "Co,School,,Europe/Lisbon,,Mon-Fri 08:00-09:00; Sat closed; Sun closed,Kitchen,D-4,School ice,flake-ice-maker,,2025-05-01",
      "Co,Yard,,Europe/Lisbon,,,Hall,D-5,Sweeper,ride-on-sweeper,,2026-06-01",
    ],
    new Date("2026-05-01T10:00:00Z"),
  );
  for (const row of await getDb().select<{ id: string; name: string }>("SELECT id, name FROM sites"))
    site.set(row.name, row.id);
  depot = uuidv7();
  await getDb().run(
    "INSERT INTO depots (id, name, time_zone, latitude, longitude) VALUES (:depot, 'Yard gate', 'Europe/Lisbon', 38.53, -28.63)",
    { depot },
  );
  await getDb().run(
    "UPDATE sites SET latitude = 38.53 + CASE name WHEN 'Works' THEN 0.01 WHEN 'School' THEN 0.02 ELSE 0.03 END, longitude = -28.63",
  );
}
