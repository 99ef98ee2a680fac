import type { Actor } from "../app/kit/actor";
import { closeItem } from "../app/sheet/left/change-items.server";
import { getDb } from "../db/index";

const DAY_MS = 86_400_000;
/** What is older than this was seen to at the time; the rest is still open today. */
const OPEN_DAYS = 40;

/** Of what the past year has left open, the lead has closed what is long past. */
export async function closeOldItems(lead: Actor, now: Date): Promise<void> {
  const rows = await getDb().models.OpenItem.findAll({
    where: { closedAt: null },
    order: ["arisenAt", "id"],
    raw: true,
  });
  for (const row of rows) {
    const last = Date.parse(row.body.again.at(-1)?.at ?? row.body.since);
    if (last > now.getTime() - OPEN_DAYS * DAY_MS) continue;
    const reason = "Seen to at the following visit, as its sheet on paper says";
    await closeItem(lead, { machineId: row.machineId, id: row.id, reason }, new Date(last + 9 * DAY_MS));
  }
}
