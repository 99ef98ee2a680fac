import { getDb, Op } from "@db";

import { OPEN_STATES } from "~/kit/jobs/open-states";

/** How much waits in the firm, for who watches over the app. */
export interface State {
  jobs: { waiting: number; running: number };
  oldestJobSeconds: number;
  messages: { waiting: number; failed: number };
  oldestMessageSeconds: number;
  /** Overdue by the calendar of UTC: which day it is at each site makes no difference to who watches a server. */
  duties: { overdue: number; stopped: number; active: number };
}

export async function stateOfWork(now: Date): Promise<State> {
  const { models } = getDb();
  const today = now.toISOString().slice(0, 10);
  const overdue = { active: true, projected: false, dueOn: { [Op.lt]: today } } as const;
  const since = (at: Date | undefined): number => (at ? Math.max(0, (now.getTime() - at.getTime()) / 1000) : 0);
  const [waitingJobs, runningJobs, [oldestJob], waiting, failed, [oldest], late, stopped, active] = await Promise.all([
    models.Job.count({ where: { state: "waiting" } }),
    models.Job.count({ where: { state: "running" } }),
    models.Job.findAll({
      attributes: ["askedAt"],
      where: { state: [...OPEN_STATES] },
      order: ["askedAt"],
      limit: 1,
      raw: true,
    }),
    models.Message.count({ where: { state: "waiting" } }),
    models.Message.count({ where: { state: "failed" } }),
    models.Message.findAll({
      attributes: ["madeAt"],
      where: { state: "waiting" },
      order: ["madeAt"],
      limit: 1,
      raw: true,
    }),
    models.Duty.count({ where: overdue }),
    models.Duty.count({ where: { ...overdue, hardStop: true } }),
    models.Duty.count({ where: { active: true } }),
  ]);
  return {
    jobs: { waiting: waitingJobs, running: runningJobs },
    oldestJobSeconds: since(oldestJob?.askedAt),
    messages: { waiting, failed },
    oldestMessageSeconds: since(oldest?.madeAt),
    duties: { overdue: late, stopped, active },
  };
}
