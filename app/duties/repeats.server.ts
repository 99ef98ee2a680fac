import { CoreError, type DatedValue, projectDue } from "@core";
import { type DutyRow, getDb, Op, type Transaction } from "@db";

/** Use in the last quarter of the machines whose duties go by a meter, and of no others. */
export async function recentMeters(
  plans: readonly Pick<DutyRow, "machineId" | "rules">[],
  now: Date,
  tx?: Transaction,
): Promise<Map<string, Record<string, DatedValue[]>>> {
  const machineIds = [...new Set(plans.filter(goesByMeter).map((plan) => plan.machineId))];
  const byMachine = new Map<string, Record<string, DatedValue[]>>();
  if (machineIds.length === 0) return byMachine;
  const since = new Date(now.getTime() - RATE_DAYS * 86_400_000);
  const rows = await getDb().models.MeterReading.findAll({
    attributes: ["machineId", "meter", "readOn", "value"],
    where: { machineId: machineIds, readAt: { [Op.gt]: since } },
    order: ["readAt", "id"],
    raw: true,
    transaction: tx ?? null,
  });
  for (const { machineId, meter, readOn, value } of rows) {
    let meters = byMachine.get(machineId);
    if (!meters) byMachine.set(machineId, (meters = {}));
    (meters[meter] ??= []).push({ on: readOn, value });
  }
  return byMachine;
}

/**
 * Days after `first` on which a duty falls due again up to `until`, each assumed done on its day. Only rules that repeat
 * by themselves count: nobody knows when an event or a reading comes.
 */
export function repeatsAfter(
  plan: Pick<DutyRow, "id" | "startOn" | "rules">,
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
    // Seen from the day on which it is done.
    today: first > today ? first : today,
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

export const goesByMeter = (plan: Pick<DutyRow, "rules">): boolean =>
  plan.rules.triggers.some((trigger) => trigger.kind === "meter");

/** Readings this old say nothing about how a machine is used now. */
export const RATE_DAYS = 91;
