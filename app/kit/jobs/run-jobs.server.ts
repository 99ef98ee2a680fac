import { must } from "@core";
import { getDb, type JobRow } from "@db";

import { Refusal } from "~/kit/refusal";
import { dropLease, takeLease } from "~/kit/server/leases.server";
import { logError } from "~/kit/server/log.server";

import { OPEN_STATES } from "./open-states";

/** What one step of a job came to. It is written as a whole, or the step is done again. */
export interface Step {
  /** From where the next goes on. */
  kept: unknown;
  done: number;
  total: number;
  /** Added to what it has made. */
  pieces?: { name: string; seq: number; bytes: Buffer }[];
  /** What was only needed on the way. */
  drop?: string[];
  /** What it is at, or how it ended. */
  message?: string;
  finished: boolean;
}

/** Kind of long work: cut into steps of a second or so, each begun from what the one before has kept. */
export type JobKind = (job: Pick<JobRow, "id" | "what" | "kept" | "done" | "total" | "askedAt">) => Promise<Step>;

const LEASE = "jobs";
const LEASE_MS = 30_000;
/** A job that ended its process, or failed unexpectedly, so often is given up. */
const MOST_TRIES = 3;
const WENT_WRONG =
  "Something went wrong on our side while this was made. Ask for it again; if it fails again, tell your lead.";

/**
 * Works on the oldest job of some kinds until none is left, in one process of all at a time. A process that dies leaves its job to the next:
 * what its last whole step has kept is there. What this version does not know how to do is left to one that does: while versions are
 * replaced, both work.
 *
 * @param holder names this process
 * @param lease of the kinds: what is quick has another one than what takes minutes, and does not wait behind it
 * @param stopping asked between steps: what is begun is gone on with by another process
 * @returns jobs that came to an end
 */
export async function runJobs(
  kinds: Record<string, JobKind>,
  holder: string,
  stopping: () => boolean = () => false,
  lease = LEASE,
): Promise<number> {
  const open = openOf(kinds);
  if (!(await anyOf(open))) return 0;
  let ended = 0;
  // Renewed beside the steps: one of them may take longer than the lease holds.
  const renewing = setInterval(
    () =>
      void takeLease(lease, holder, LEASE_MS, new Date()).catch((error: unknown) =>
        logError(`Jobs: ${(error as Error).message}`),
      ),
    LEASE_MS / 3,
  );
  renewing.unref();
  try {
    for (;;) {
      if (stopping() || !(await takeLease(lease, holder, LEASE_MS, new Date()))) return ended;
      const job = await claim(open, holder);
      if (!job) return ended;
      if (await workOn(job, must(kinds[job.kind]), holder, stopping)) ended += 1;
    }
  } finally {
    clearInterval(renewing);
    await dropLease(lease, holder).catch(() => undefined);
  }
}

const openOf = (kinds: Record<string, JobKind>) => ({ state: [...OPEN_STATES], kind: Object.keys(kinds) });

type Open = ReturnType<typeof openOf>;

async function anyOf(open: Open): Promise<boolean> {
  return (await getDb().models.Job.findOne({ attributes: ["id"], where: open, raw: true })) !== null;
}

/** The oldest that waits, or that was left by a process that is no more. */
async function claim(open: Open, holder: string): Promise<JobRow | null> {
  return getDb().transact(async (tx) => {
    const [job] = await getDb().models.Job.findAll({
      where: open,
      order: [
        ["askedAt", "ASC"],
        ["id", "ASC"],
      ],
      limit: 1,
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    if (!job) return null;
    const tries = job.tries + 1;
    await getDb().models.Job.update(
      { state: "running", runner: holder, tries },
      { where: { id: job.id }, transaction: tx },
    );
    return { ...job, tries, runner: holder };
  });
}

/** Says whether it came to an end. */
async function workOn(job: JobRow, kind: JobKind, holder: string, stopping: () => boolean): Promise<boolean> {
  let now = job;
  try {
    if (job.tries > MOST_TRIES) throw new Refusal(422, "tries", WENT_WRONG);
    for (;;) {
      const step = await kind(now);
      if (!(await keep(now.id, holder, step))) return false;
      if (step.finished) return true;
      if (stopping()) return false;
      now = { ...now, kept: step.kept, done: step.done, total: step.total };
      // Requests come first.
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  } catch (error) {
    if (error instanceof Refusal) {
      await fail(job.id, holder, error.message);
      return true;
    }
    logError(`Job ${job.kind} ${job.id}: ${(error as Error).stack ?? (error as Error).message}`);
    if (job.tries < MOST_TRIES) return false;
    await fail(job.id, holder, WENT_WRONG);
    return true;
  }
}

/** Writes a step, unless the job was stopped or is another process's by now. */
async function keep(id: string, holder: string, step: Step): Promise<boolean> {
  const { models } = getDb();
  return getDb().transact(async (tx) => {
    const [row] = await models.Job.findAll({
      attributes: ["state", "runner"],
      where: { id },
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    if (row?.state !== "running" || row.runner !== holder) return false;
    for (const piece of step.pieces ?? []) await models.JobPiece.create({ jobId: id, ...piece }, { transaction: tx });
    for (const name of step.drop ?? []) await models.JobPiece.destroy({ where: { jobId: id, name }, transaction: tx });
    const { kept, done, total, message = "", finished } = step;
    await models.Job.update(
      {
        kept: finished ? null : kept,
        done,
        total,
        message,
        tries: 0,
        ...(finished ? { state: "done" as const, endedAt: new Date(), runner: "" } : {}),
      },
      { where: { id }, transaction: tx },
    );
    return true;
  });
}

async function fail(id: string, holder: string, message: string): Promise<void> {
  const { models } = getDb();
  await getDb().transact(async (tx) => {
    const [changed] = await models.Job.update(
      { state: "failed", message, endedAt: new Date(), runner: "", kept: null },
      { where: { id, runner: holder }, transaction: tx },
    );
    if (changed > 0) await models.JobPiece.destroy({ where: { jobId: id }, transaction: tx });
  });
}
