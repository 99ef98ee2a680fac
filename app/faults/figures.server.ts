import { type FailureFigures, failureFigures } from "@core";
import { getDb, Op } from "@db";

/** How a machine has held up, and what that rests on. */
export interface HoldingUp extends FailureFigures {
  days: number;
  failures: number;
}

const SPAN_DAYS = 365;
const DAY_MS = 86_400_000;

/**
 * How a machine has held up over the last year, or since it is known: stopped by a report or held out of service, until the report was
 * closed or the hold lifted.
 */
export async function holdingUp(machineId: string, now: Date): Promise<HoldingUp> {
  const { MachineHold, ProblemReport, Machine } = getDb().models;
  const machine = await Machine.findByPk(machineId, { attributes: ["dutiesFrom"], raw: true });
  const known = machine?.dutiesFrom ? Date.parse(machine.dutiesFrom) : 0;
  const from = new Date(Math.min(now.getTime() - DAY_MS, Math.max(known, now.getTime() - SPAN_DAYS * DAY_MS)));
  const [holds, reports] = await Promise.all([
    MachineHold.findAll({
      attributes: ["since", "clearedAt"],
      where: { machineId, since: { [Op.lt]: now }, [Op.or]: [{ clearedAt: null }, { clearedAt: { [Op.gte]: from } }] },
      raw: true,
    }),
    ProblemReport.findAll({
      attributes: ["loggedAt", "closedAt"],
      where: {
        ...{ machineId, stopped: true, loggedAt: { [Op.lt]: now } },
        [Op.or]: [{ closedAt: null }, { closedAt: { [Op.gte]: from } }],
      },
      raw: true,
    }),
  ]);
  const failures = [
    ...holds.map(({ since, clearedAt }) => ({ stopped: since, back: clearedAt })),
    ...reports.map(({ loggedAt, closedAt }) => ({ stopped: loggedAt, back: closedAt })),
  ].map(({ stopped, back }) => ({ stoppedAt: stopped.toISOString(), backAt: back?.toISOString() ?? null }));
  const figures = failureFigures({ from: from.toISOString(), until: now.toISOString(), failures });
  const began = failures.filter(({ stoppedAt }) => stoppedAt >= from.toISOString()).length;
  return { ...figures, days: Math.round((now.getTime() - from.getTime()) / DAY_MS), failures: began };
}
