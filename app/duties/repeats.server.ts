import { CoreError, type DatedValue, projectDue } from "@core";
import { getDb, type PlanRow } from "@db";

/** Use in the last quarter of the machines whose duties go by a meter, and of no others. */
export async function recentMeters(
  plans: readonly Pick<PlanRow, "machineId" | "rules">[],
  now: Date,
): Promise<Map<string, Record<string, DatedValue[]>>> {
  const machineIds = [...new Set(plans.filter(goesByMeter).map((plan) => plan.machineId))];
  const byMachine = new Map<string, Record<string, DatedValue[]>>();
  if (machineIds.length === 0) return byMachine;
  const rows = await getDb().select<{ machineId: string; meter: string; on: string; value: number }>(
    `SELECT machine_id AS machineId, meter, read_on AS \`on\`, value FROM meter_readings
     WHERE machine_id IN (:machineIds) AND read_at > :since ORDER BY read_at, id`,
    { machineIds, since: new Date(now.getTime() - RATE_DAYS * 86_400_000) },
  );
  for (const { machineId, meter, on, value } of rows) {
    let meters = byMachine.get(machineId);
    if (!meters) byMachine.set(machineId, (meters = {}));
    (meters[meter] ??= []).push({ on, value });
  }
  return byMachine;
}

/**
 * Days after `first` on which a duty falls due again up to `until`, each assumed done on its day. Only rules that repeat
 * by themselves count: nobody knows when an event or a reading comes.
 */
export function repeatsAfter(
  plan: Pick<PlanRow, "id" | "startOn" | "rules">,
  first: string,
  today: string,
  until: string,
  meters: Record<string, DatedValue[]>,
): string[] {
  const triggers = plan.rules.triggers.filter((trigger) => trigger.kind === "calendar" || trigger.kind === "meter");
  if (triggers.length === 0 || first > until) return [];
  const { intervalFactor } = plan.rules;
  const input = {
    plan: { id: plan.id, startOn: plan.startOn, triggers, ...(intervalFactor ? { intervalFactor } : {}) },
    completions: [{ planId: plan.id, on: first }],
    meters,
    readings: {},
    events: [],
    today,
  };
  try {
    return projectDue(input, until)
      .map((one) => one.on)
      .filter((on) => on > first);
  } catch (error) {
    // Rules that cannot be projected are shown where they are set up; the overview goes on without their repeats.
    if (error instanceof CoreError) return [];
    throw error;
  }
}

export const goesByMeter = (plan: Pick<PlanRow, "rules">): boolean =>
  plan.rules.triggers.some((trigger) => trigger.kind === "meter");

/** Readings this old say nothing about how a machine is used now. */
export const RATE_DAYS = 91;
