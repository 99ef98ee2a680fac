import { getDb, type JobRow, Op, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { knowLease } from "~/kit/server/leases.sql";

import * as sql from "./jobs.sql";
import { OPEN_STATES } from "./open-states";

/** Most that one person may have waiting or running. */
const MOST_AT_ONCE = 5;
/** What was made is there to be fetched for so long. */
export const KEPT_DAYS = 7;

export type JobView = Pick<JobRow, "id" | "kind" | "title" | "askedAt" | "state" | "done" | "total" | "message"> & {
  what: unknown;
  files: { name: string; bytes: number }[];
};

/**
 * Asks for long work, done in the background by one process at a time: its id. The caller's transaction is its own.
 *
 * @throws Refusal 429 while as many of the person's wait as may
 */
export async function askFor(
  actor: Actor,
  job: { kind: string; title: string; what: unknown; total: number },
  now: Date,
): Promise<string> {
  const id = uuidv7();
  await getDb().transact(async (tx) => {
    // The person's row is held: two requests at once cannot both be the last that may wait.
    await getDb().models.Person.findAll({
      attributes: ["id"],
      where: { id: actor.id },
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    const open = await getDb().models.Job.count({
      where: { askedBy: actor.id, state: [...OPEN_STATES] },
      transaction: tx,
    });
    if (open >= MOST_AT_ONCE)
      throw new Refusal(
        429,
        "busy",
        `${MOST_AT_ONCE} of yours are being made already. Wait for one of them, or stop one.`,
      );
    await getDb().models.Job.create(
      { id, ...job, askedBy: actor.id, askedAt: now, state: "waiting", kept: null },
      { transaction: tx },
    );
  });
  return id;
}

/** Nobody's: the app's own work, or that of who runs it. */
const NOBODY = "00000000-0000-0000-0000-000000000000";

/** How one of nobody's ended can be asked so long, whoever asked for it. */
const REMEMBERED_MS = 3_600_000;
/** Whoever asks for what is wanted once holds this row while looking whether it is asked for. */
const ASKING = "jobs asked for";

/**
 * Asks for long work that is nobody's, of which one of a kind and title at a time is enough, however many ask in the same moment.
 *
 * @returns its id, or that of the one that is not done yet
 */
export async function askOnce(job: { kind: string; title: string; what: unknown }, now: Date): Promise<string> {
  const db = getDb();
  const { models } = db;
  const same = { kind: job.kind, title: job.title };
  const openOne = (tx?: Transaction) =>
    models.Job.findAll({
      attributes: ["id"],
      where: { ...same, state: [...OPEN_STATES] },
      limit: 1,
      raw: true,
      ...(tx ? { transaction: tx } : {}),
    });
  const [asked] = await openOne();
  if (asked) return asked.id;
  await knowLease({ name: ASKING });
  return db.transact(async (tx) => {
    await models.Lease.findAll({ where: { name: ASKING }, lock: tx.LOCK.UPDATE, raw: true, transaction: tx });
    const [open] = await openOne(tx);
    if (open) return open.id;
    // Of what is asked for again and again, only the latest are remembered.
    await models.Job.destroy({
      where: { ...same, askedBy: NOBODY, endedAt: { [Op.lt]: new Date(now.getTime() - REMEMBERED_MS) } },
      transaction: tx,
    });
    const id = uuidv7();
    await models.Job.create(
      { id, ...job, askedBy: NOBODY, askedAt: now, state: "waiting", kept: null },
      { transaction: tx },
    );
    return id;
  });
}

export type Progress = Pick<JobRow, "state" | "done" | "total" | "message">;

/** How far a job is. */
export function progressOf(id: string): Promise<Progress | null> {
  return getDb().models.Job.findByPk(id, { attributes: ["state", "done", "total", "message"], raw: true });
}

/** How far the newest of nobody's jobs of a kind and title is; null when the last ended long ago. */
export async function newestOf(kind: string, title: string, now: Date): Promise<Progress | null> {
  const lately = new Date(now.getTime() - REMEMBERED_MS);
  const [found] = await getDb().models.Job.findAll({
    attributes: ["state", "done", "total", "message"],
    where: { askedBy: NOBODY, kind, title, endedAt: { [Op.or]: [{ [Op.is]: null }, { [Op.gt]: lately }] } },
    order: [
      ["askedAt", "DESC"],
      ["id", "DESC"],
    ],
    limit: 1,
    raw: true,
  });
  return found ?? null;
}

/** What somebody has asked for, the newest first. */
export async function jobsOf(actor: Actor, limit = 20): Promise<Omit<JobView, "files">[]> {
  return getDb().models.Job.findAll({
    attributes: ["id", "kind", "title", "askedAt", "state", "done", "total", "message", "what"],
    where: { askedBy: actor.id },
    order: [
      ["askedAt", "DESC"],
      ["id", "DESC"],
    ],
    limit,
    raw: true,
  });
}

/** What others, and the app by itself, have waiting or running: the next first. */
export function openJobsOfOthers(actor: Actor): Promise<sql.OpenJob[]> {
  return sql.openJobs({ states: OPEN_STATES, except: actor.id }, 50);
}

/**
 * One job with what it has made.
 *
 * @throws Refusal 404 when there is none, or it is another's and the actor no lead
 */
export async function jobOf(actor: Actor, id: string): Promise<JobView> {
  const row = await getDb().models.Job.findByPk(id, { raw: true });
  if (!row || (row.askedBy !== actor.id && actor.role !== "lead"))
    throw new Refusal(404, "no-such-job", `This is not there any more. What is made is kept for ${KEPT_DAYS} days.`);
  const { kind, title, askedAt, state, done, total, message, what } = row;
  const files = state === "done" ? await sql.filesOf({ id }) : [];
  return { id, kind, title, askedAt, state, done, total, message, what, files };
}

/** It is wanted no more: whoever works on it notices before its next step. */
export async function stopJob(actor: Actor, id: string, now: Date): Promise<void> {
  await jobOf(actor, id);
  await getDb().transact(async (tx) => {
    const [changed] = await getDb().models.Job.update(
      { state: "stopped", endedAt: now, runner: "" },
      { where: { id, state: [...OPEN_STATES] }, transaction: tx },
    );
    if (changed > 0) await getDb().models.JobPiece.destroy({ where: { jobId: id }, transaction: tx });
  });
}

/** A file that a job has made, piece by piece: it may be larger than one statement or one answer may hold. */
export function readFile(jobId: string, name: string): ReadableStream<Uint8Array> {
  let seq = 0;
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const piece = await getDb().models.JobPiece.findOne({
        attributes: ["bytes"],
        where: { jobId, name, seq },
        raw: true,
      });
      seq += 1;
      if (piece) controller.enqueue(new Uint8Array(piece.bytes));
      else controller.close();
    },
  });
}

/** Lets go of what was made long ago. */
export async function clearOldJobs(now: Date): Promise<void> {
  const { models } = getDb();
  const before = new Date(now.getTime() - KEPT_DAYS * 86_400_000);
  const old = await models.Job.findAll({
    attributes: ["id"],
    where: { endedAt: { [Op.lt]: before } },
    limit: 50,
    raw: true,
  });
  for (const { id } of old)
    await getDb().transact(async (tx) => {
      await models.JobPiece.destroy({ where: { jobId: id }, transaction: tx });
      await models.Job.destroy({ where: { id }, transaction: tx });
    });
}
