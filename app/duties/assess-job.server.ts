import { getDb } from "@db";

import type { JobKind } from "~/kit/jobs/run-jobs.server";

import { assessThese, machinesAfter } from "./assess.server";

/** Name of the kind: every duty of the register, worked out anew. */
export const ASSESS_REGISTER = "assess-register";

interface Kept {
  /** The last machine that was looked at. */
  after: string;
  duties: number;
  changed: number;
}

/** Some machines a step; what was assessed is stored with each, so that another process goes on after it. */
export const assessRegister: JobKind = async (job) => {
  const { after, duties, changed } = (job.kept as Kept | null) ?? { after: "", duties: 0, changed: 0 };
  const ids = await machinesAfter(after);
  const last = ids.at(-1);
  const part = last === undefined ? { duties: 0, changed: 0 } : await assessThese(ids, new Date());
  const kept = { after: last ?? after, duties: duties + part.duties, changed: changed + part.changed };
  const done = job.done + ids.length;
  return {
    kept,
    done,
    // Machines that came while it was worked on are among them.
    total: Math.max(done, job.total > 0 ? job.total : await getDb().models.Machine.count({ where: {} })),
    message: `${kept.duties.toLocaleString("en")} duties looked at, ${kept.changed.toLocaleString("en")} changed`,
    finished: last === undefined,
  };
};
