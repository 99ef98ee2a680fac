import { closesRun, must, type RunEvent } from "@core";
import { ER_DUP_ENTRY, errorNumber, getDb, type SheetRow, type Transaction } from "@db";

import { holdMachine } from "~/duties/holds.server";
import { type Actor, whyNotWork } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { contentHash } from "~/kit/server/content-hash.server";
import { addToChain, vouchedFor } from "~/kit/server/record-chain.server";
import { summarise } from "~/sheet/summaries/summaries.server";
import { settleStock } from "~/stores/ledger/sheet-stock.server";

import { beforeItsSheet, notValid, whyNotTake } from "./entry-refusals.server";
import { holdUnsafe } from "./hold-unsafe.server";
import { parseLogEntry } from "./log-entry-schema";
import { settleSheet } from "./settle-sheet.server";
import { procedureOf, readEntries, type SheetContext, sheetContext } from "./sheet-context.server";
import * as sql from "./sheets.sql";

/** Most entries one batch may hold; a device that was away for long sends several. */
export const MAX_BATCH_ENTRIES = 200;

/** Most bytes one batch may have. */
export const MAX_BATCH_BYTES = 256 * 1024;

export interface BatchResult {
  /** Ids that are in the log now, those that were there before included. */
  accepted: string[];
  /** `clock`: its time cannot be; it may be sent again with another, not before `notBefore`. */
  refused: { id: string | null; code: string; message: string; notBefore?: string }[];
  status: SheetRow["status"];
}

/**
 * Adds a batch of entries to a sheet's log. Sending it again changes nothing; each entry is taken or refused by itself,
 * with the reason. A batch that begins with `started` opens the sheet.
 */
export async function appendEntries(
  actor: Actor,
  sheetId: string,
  rawEntries: unknown[],
  now: Date,
): Promise<BatchResult> {
  if (rawEntries.length > MAX_BATCH_ENTRIES) {
    throw new Refusal(
      413,
      "batch-too-big",
      `A batch holds at most ${MAX_BATCH_ENTRIES} entries, this one has ${rawEntries.length}. Send it in parts.`,
    );
  }
  const refused: BatchResult["refused"] = [];
  const entries: RunEvent[] = [];
  for (const raw of rawEntries) {
    const { entry, fault } = parseLogEntry(raw);
    const refusal = fault ? notValid(raw, fault) : whyNotTake(must(entry), actor, sheetId, now);
    if (refusal) refused.push({ id: (raw as { id?: string } | null)?.id ?? null, ...refusal });
    else entries.push(must(entry));
  }
  const result = await onSheet(actor, sheetId, { entries, now }, (log) => log.take(entries, { fromDevice: true }));
  return { ...result, refused: [...refused, ...result.refused] };
}

/** Refused: another sheet of the duty was opened at the same time. */
export const OPEN_ALREADY = "open-already";

/** Stores valid entries in one transaction and, when they close the sheet, what follows from it. */
export function storeEntries(actor: Actor, sheetId: string, entries: RunEvent[], now: Date): Promise<BatchResult> {
  return onSheet(actor, sheetId, { entries, now }, (log) => log.take(entries));
}

/** Works on a sheet's log in one transaction that holds its row: what is looked at there is so until what is added is stored. */
export async function onSheet<T>(
  actor: Actor,
  sheetId: string,
  { entries, now, alone = false }: { entries: RunEvent[]; now: Date; alone?: boolean },
  work: (log: SheetLog) => Promise<T>,
): Promise<T> {
  const inOne = (): Promise<T> =>
    getDb().transact(async (tx) =>
      work(new SheetLog(actor, await openOrFind(actor, sheetId, { entries, now, alone }, tx), now, tx)),
    );
  try {
    return await inOne();
  } catch (error) {
    // Another request stored one of these entries between our look and our insert: look again, it is known now.
    if (errorNumber(error) === ER_DUP_ENTRY) return inOne();
    throw error;
  }
}

/** Works on several sheets' logs in one transaction that holds all their rows: what is added is there on all of them, or on none. */
export function onSheets<T>(
  actor: Actor,
  sheetIds: readonly string[],
  now: Date,
  work: (logs: SheetLog[]) => Promise<T>,
): Promise<T> {
  return getDb().transact(async (tx) => {
    const logs: SheetLog[] = [];
    // In one order: two who sign the same sheets wait for each other instead of holding each other up.
    for (const sheetId of [...new Set(sheetIds)].sort())
      logs.push(new SheetLog(actor, await openOrFind(actor, sheetId, { entries: [], now, alone: false }, tx), now, tx));
    return work(logs);
  });
}

/** One sheet's log within one transaction that holds its row: what is new is added, and what follows from it is done. */
export class SheetLog {
  readonly context: SheetContext;
  readonly tx: Transaction;
  readonly #actor: Actor;
  readonly #now: Date;

  constructor(actor: Actor, context: SheetContext, now: Date, tx: Transaction) {
    this.context = context;
    this.tx = tx;
    this.#actor = actor;
    this.#now = now;
  }

  async take(entries: readonly RunEvent[], { fromDevice = false } = {}): Promise<BatchResult> {
    const opened = this.context.sheet.openedAt.getTime();
    const known = await this.#hashesOf(entries);
    const accepted: string[] = [];
    const refused: BatchResult["refused"] = [];
    const fresh: { entry: RunEvent; hash: string }[] = [];
    for (const entry of entries) {
      const hash = contentHash(entry);
      const before = known.get(entry.id);
      const refusal =
        before === undefined
          ? ((fromDevice ? beforeItsSheet(entry, opened) : null) ??
            (await whyNotAppend(entry, this.#actor, this.context, this.tx)))
          : before === hash
            ? null
            : ID_TAKEN;
      if (refusal) {
        refused.push({ id: entry.id, ...refusal });
        continue;
      }
      accepted.push(entry.id);
      if (before !== undefined) continue;
      known.set(entry.id, hash);
      fresh.push({ entry, hash });
    }
    if (fresh.length > 0) {
      await this.#add(fresh);
      await this.#followUp(fresh.map(({ entry }) => entry));
    }
    return { accepted, refused, status: this.context.sheet.status };
  }

  async #hashesOf(entries: readonly RunEvent[]): Promise<Map<string, string>> {
    if (entries.length === 0) return new Map();
    const rows = await getDb().models.LogEntry.findAll({
      attributes: ["id", "contentHash"],
      where: { id: entries.map((entry) => entry.id) },
      raw: true,
      transaction: this.tx,
    });
    return new Map(rows.map((row) => [row.id, row.contentHash]));
  }

  async #add(fresh: readonly { entry: RunEvent; hash: string }[]): Promise<void> {
    const closed = this.context.sheet.status !== "open";
    await getDb().models.LogEntry.bulkCreate(
      fresh.map(({ entry, hash }) => ({
        id: entry.id,
        sheetId: this.context.sheet.id,
        byPerson: this.#actor.id,
        type: entry.type,
        body: entry,
        contentHash: hash,
        receivedAt: this.#now,
        // A record changes by corrections alone, whatever times the entries name.
        late: closed && entry.type !== "corrected",
      })),
      { transaction: this.tx },
    );
  }

  /** Holds, hands, stock, and once the sheet is closed its record: the whole of it, then each addition and what came late. */
  async #followUp(entries: RunEvent[]): Promise<void> {
    const tx = this.tx;
    const { sheet, timeZone } = this.context;
    await takeEffect(sheet, entries, tx);
    let log: Promise<RunEvent[]> | undefined;
    const readAll = (): Promise<RunEvent[]> => (log ??= readEntries(sheet.id, tx));
    if (sheet.status === "open") await holdUnsafe(this.context, entries, readAll, tx);
    await settleStock(
      sheet,
      entries,
      { procedure: () => procedureOf(sheet, tx), entries: readAll, timeZone },
      this.#now,
      tx,
    );
    const wasOpen = sheet.status === "open";
    // At a closed sheet corrections alone change anything.
    if (entries.some(wasOpen ? closesRun : (entry) => entry.type === "corrected"))
      await settleSheet(this.context, this.#now, tx);
    if (sheet.status !== "open") await summarise(this.context, await readAll(), tx);
    if (!wasOpen) await this.#vouch("addition", entries);
    else if (this.context.sheet.status === "signed") await this.#vouch("record", await readAll());
  }

  async #vouch(kind: "record" | "addition", entries: RunEvent[]): Promise<void> {
    const { sheet } = this.context;
    const content = { events: entries.map((entry) => entry.id) };
    const vouched = vouchedFor(sheet, entries);
    await addToChain({ kind, subjectId: sheet.id, content, vouched, at: this.#now }, this.tx);
  }
}

const ID_TAKEN = {
  code: "id-taken",
  message: "This id is in the log already with other content. The logged fact stays; log a correction instead.",
};

/** What does not wait for the signature: an unsafe finding stops the machine at once, and a sheet changes hands. */
async function takeEffect(sheet: SheetRow, entries: RunEvent[], tx: Transaction): Promise<void> {
  for (const entry of entries) {
    if (entry.type === "finding" && entry.severity === "unsafe") {
      await holdMachine(
        {
          machineId: sheet.machineId,
          reason: entry.text,
          sheetId: sheet.id,
          entryId: entry.id,
          byPerson: entry.by,
          since: new Date(entry.at),
        },
        tx,
      );
    }
    if (entry.type === "handed-over" && sheet.status === "open") {
      await getDb().models.Sheet.update({ heldBy: entry.to }, { where: { id: sheet.id }, transaction: tx });
      await sql.passOn({ dutyId: sheet.dutyId, from: entry.by, to: entry.to }, tx);
    }
  }
}

/**
 * The sheet, locked; opened by a `started` entry when it is new. Where another sheet of the duty is open, a device that was
 * away still keeps what it logged, in a second one; `alone` refuses.
 */
async function openOrFind(
  actor: Actor,
  sheetId: string,
  { entries, now, alone }: { entries: RunEvent[]; now: Date; alone: boolean },
  tx: Transaction,
): Promise<SheetContext> {
  const db = getDb();
  const [locked] = await db.models.Sheet.findAll({
    attributes: ["id"],
    where: { id: sheetId },
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
  if (!locked) {
    const started = entries.find((entry) => entry.type === "started");
    if (!started) throw new Refusal(404, "no-such-run", "This sheet does not exist. Open it from the duty.");
    const duty = await db.models.Duty.findByPk(started.planId, { raw: true, transaction: tx });
    if (!duty || duty.procedureId !== started.procedureId)
      throw new Refusal(404, "no-such-duty", "This duty does not exist any more. Go back to the round.");
    const [procedure] = await db.models.Procedure.findAll({
      attributes: ["id"],
      where: { id: started.procedureId, version: started.procedureVersion },
      raw: true,
      transaction: tx,
    });
    if (!procedure)
      throw new Refusal(
        404,
        "no-such-procedure",
        `Version ${started.procedureVersion} of this procedure does not exist.`,
      );
    const other = await db.models.Sheet.findOne({
      attributes: ["id"],
      where: { openDutyId: duty.id },
      raw: true,
      transaction: tx,
    });
    if (other && alone) throw new Refusal(409, OPEN_ALREADY, "A sheet of this duty is open already: go on with it.");
    // Two at once: the second is refused by the database, looks again, and finds the first.
    await db.models.Sheet.create(
      {
        id: sheetId,
        dutyId: duty.id,
        machineId: duty.machineId,
        procedureId: started.procedureId,
        procedureVersion: started.procedureVersion,
        openedBy: actor.id,
        heldBy: actor.id,
        openedAt: new Date(started.at),
        status: "open",
        openDutyId: other ? null : duty.id,
      },
      { transaction: tx },
    );
  }
  const context = await sheetContext(sheetId, tx);
  const reason = whyNotWork(actor, context.duty, dayInZone(now, context.timeZone));
  if (reason) throw new Refusal(403, "not-authorised", reason);
  return context;
}

/** What can be judged only with the log: undo and correction are for one's own facts, or for a lead. */
async function whyNotAppend(
  entry: RunEvent,
  actor: Actor,
  context: SheetContext,
  tx: Transaction,
): Promise<{ code: string; message: string } | null> {
  if (
    entry.type === "handed-over" &&
    !(await getDb().models.Person.findOne({ where: { id: entry.to, active: true }, raw: true, transaction: tx }))
  )
    return {
      code: "no-such-person",
      message: "This colleague does not exist or is not active any more. Choose another.",
    };
  if (entry.type === "lock-lifted" && actor.role !== "lead")
    return { code: "leads-only", message: "Only a lead lifts a colleague's lock. Ask one, or who put it on." };
  if (entry.type === "started" && context.sheet.openedBy !== actor.id)
    return { code: "already-open", message: "This sheet is open already." };
  if (entry.type !== "undone" && entry.type !== "corrected") return null;
  const [target] = await getDb().models.LogEntry.findAll({
    attributes: ["byPerson", "type", "sheetId"],
    where: { id: entry.ref },
    raw: true,
    transaction: tx,
  });
  // The fact it names may still be on its way from another device.
  if (!target) return null;
  if (target.sheetId !== entry.runId)
    return { code: "other-sheet", message: "The fact it names belongs to another sheet." };
  if (target.byPerson !== actor.id && actor.role !== "lead")
    return { code: "not-yours", message: "Another person logged that. Ask them or a lead to take it back." };
  if (entry.type === "undone" && (target.type === "signed" || target.type === "outcome"))
    return { code: "closed", message: "A signed or ended sheet stays as it is. Log a correction instead." };
  return null;
}
