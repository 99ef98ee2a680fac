import { randomInt } from "node:crypto";

import {
  byTheGuide,
  CoreError,
  drawFault,
  type FaultGuide,
  FaultPractice,
  faultProcedureId,
  type HiddenFault,
  isFaultProcedure,
  judgeFault,
  judgeSheet,
  must,
  type PracticeAct,
  type PracticeResult,
  type RunEvent,
} from "@core";
import { getDb, type PracticeRunRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import { listGuides } from "~/faults/faults.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { aside } from "~/kit/server/aside.server";
import { guideOf } from "~/procedures/guides/guides.server";
import { getProcedure } from "~/procedures/procedures.server";
import { parseLogEntry } from "~/sheet/log/log-entry-schema";

import { type FaultView, faultView } from "./fault-view";
import * as sql from "./practice.sql";

/** Seeds are positive and fit their column. */
const SEEDS = 2 ** 31 - 1;
/** Nobody needs as many; a page that taps by itself does. */
const MOST_ACTS = 400;
const MOST_ENTRIES = 1500;
const LISTED = 40;

/**
 * Begins to look for a fault on a machine that does not exist.
 *
 * @param again a run of the same person, whose machine comes once more; it counts for no authorisation
 * @returns the run
 */
export async function beginFault(
  actor: Actor,
  { family, again }: { family: string; again: string | null },
  now: Date,
): Promise<string> {
  const before = again === null ? null : await runOf(actor, again);
  const guide = before ? await guideOfRun(before) : await guideOf(family);
  if (!guide) throw new Refusal(404, "no-such-guide", "There is no fault guide for this family.");
  return begin(
    actor,
    {
      ...{ kind: "fault", family: guide.family, procedureId: faultProcedureId(guide.family), version: guide.version },
      ...{ title: guide.title, seed: before?.seed ?? randomInt(1, SEEDS), isNew: before === null },
    },
    now,
  );
}

/** Begins a whole sheet on a machine that does not exist. @returns the run */
export async function beginSheet(actor: Actor, procedureId: string, now: Date): Promise<string> {
  if (isFaultProcedure(procedureId))
    throw new Refusal(422, "procedure", "A fault is practised on a machine with one: see Practice.");
  const { family, version, title } = await getProcedure(procedureId);
  return begin(
    actor,
    { kind: "sheet", family, procedureId, version, title, seed: randomInt(1, SEEDS), isNew: true },
    now,
  );
}

async function begin(
  actor: Actor,
  what: Pick<PracticeRunRow, "kind" | "family" | "procedureId" | "version" | "title" | "seed" | "isNew">,
  now: Date,
): Promise<string> {
  const id = uuidv7();
  await getDb().models.PracticeRun.create({ id, personId: actor.id, ...what, acts: [], startedAt: now });
  return id;
}

/** A person's own run; a lead sees everybody's. */
export async function runOf(actor: Actor, id: string): Promise<PracticeRunRow> {
  const run = await getDb().models.PracticeRun.findByPk(id, { raw: true });
  if (!run || (run.personId !== actor.id && actor.role !== "lead"))
    throw new Refusal(404, "no-such-practice", "This practice does not exist.");
  return run;
}

async function guideOfRun({ family, version }: PracticeRunRow): Promise<FaultGuide> {
  const guide = await guideOf(family, version);
  if (!guide) throw new Refusal(404, "no-such-guide", "The guide of this practice is not there any more.");
  return guide;
}

/** What a finished run was about. */
export interface RunEnd {
  result: PracticeResult;
  /** What was wrong, and how the guide alone would have found it; null of a whole sheet. */
  truth: { cause: string; lines: FaultView["lines"] } | null;
}

export interface RunView {
  run: Pick<PracticeRunRow, "id" | "kind" | "family" | "title" | "procedureId" | "isNew" | "actsCount">;
  isOwn: boolean;
  fault: FaultView | null;
  end: RunEnd | null;
}

export async function runView(actor: Actor, id: string): Promise<RunView> {
  const row = await runOf(actor, id);
  const { kind, family, title, procedureId, isNew, actsCount, result } = row;
  const view = { run: { id, kind, family, title, procedureId, isNew, actsCount }, isOwn: row.personId === actor.id };
  if (kind === "sheet") return { ...view, fault: null, end: result ? { result, truth: null } : null };
  const guide = await guideOfRun(row);
  const fault = drawFault(guide, row.seed);
  return {
    ...view,
    fault: faultView(guide, fault, row.acts as PracticeAct[]),
    end: result ? { result, truth: truthOf(guide, fault) } : null,
  };
}

function truthOf(guide: FaultGuide, fault: HiddenFault): RunEnd["truth"] {
  const cause = must(guide.causes.find((one) => one.id === fault.cause)).name;
  return { cause, lines: byTheGuide(guide, fault).practice.lines };
}

/** @param seen how many acts the page knew of: what was sent twice, or from an older page, is not done again */
export async function doAct(actor: Actor, id: string, act: PracticeAct, seen: number, now: Date): Promise<void> {
  const db = getDb();
  const { models } = db;
  await db.transact(async (tx) => {
    const row = await models.PracticeRun.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
    if (!row || row.personId !== actor.id || row.kind !== "fault")
      throw new Refusal(404, "no-such-practice", "This practice does not exist.");
    if (row.finishedAt) throw new Refusal(409, "over", "This practice is over.");
    if (row.actsCount !== seen) return;
    if (row.actsCount >= MOST_ACTS)
      throw new Refusal(422, "too-many", "This practice is too long to be judged. Begin another.");
    const guide = await guideOfRun(row);
    const fault = drawFault(guide, row.seed);
    const acts = [...(row.acts as PracticeAct[]), act];
    // Everything that was done, this act last: what cannot be is refused here, before it is kept.
    const result = await sensibly(() =>
      new FaultPractice(guide, fault, acts).isOver ? judgeFault(guide, fault, acts) : null,
    );
    await models.PracticeRun.update(
      {
        ...{ acts, actsCount: acts.length },
        ...(result ? { finishedAt: now, passed: result.isPassed, result } : {}),
      },
      { where: { id }, transaction: tx },
    );
  });
}

/** A practised sheet is handed in, and judged. */
export async function handIn(
  actor: Actor,
  id: string,
  { entries, options }: { entries: string; options: readonly string[] },
  now: Date,
): Promise<void> {
  const run = await runOf(actor, id);
  if (run.personId !== actor.id || run.kind !== "sheet")
    throw new Refusal(404, "no-such-practice", "This practice does not exist.");
  const procedure = await getProcedure(run.procedureId, run.version);
  const fitted = procedure.options.map((one) => one.id).filter((one) => options.includes(one));
  const events = readEntries(entries);
  const practised = { procedure, seed: run.seed, options: fitted };
  const result = await sensibly(() => aside("plans", "judgeSheet", judgeSheet, practised, events));
  const [changed] = await getDb().models.PracticeRun.update(
    { acts: events, actsCount: events.length, finishedAt: now, passed: result.isPassed, result },
    { where: { id, finishedAt: null as never } },
  );
  if (changed === 0) throw new Refusal(409, "over", "This practice was handed in already.");
}

function readEntries(text: string): RunEvent[] {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new Refusal(422, "not-json", "What was practised could not be read. Nothing was kept.");
  }
  if (!Array.isArray(raw) || raw.length === 0) throw new Refusal(422, "empty", "There is nothing to hand in yet.");
  if (raw.length > MOST_ENTRIES)
    throw new Refusal(422, "too-many", "This practice is too long to be judged. Begin another.");
  return raw.map((one) => {
    const { entry, fault } = parseLogEntry(one);
    if (!entry)
      throw new Refusal(422, "not-valid", `What was practised could not be read: ${fault}. Nothing was kept.`);
    return entry;
  });
}

/** What the core does not take was made by no page of ours. */
async function sensibly<T>(work: () => T | Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof CoreError) throw new Refusal(422, "not-possible", error.message);
    throw error;
  }
}

export async function practiceList(actor: Actor) {
  const isLead = actor.role === "lead";
  const [own, people, families] = await Promise.all([
    sql.runsWithNames({ personId: actor.id, limit: LISTED }),
    isLead ? sql.practisedByPerson() : [],
    listFamilies(),
  ]);
  const others = isLead ? (await sql.runsWithNames({ limit: LISTED })).filter((one) => one.personId !== actor.id) : [];
  return { own, others, people, families, isLead };
}

const listFamilies = async (): Promise<string[]> => (await listGuides()).map((one) => one.family);
