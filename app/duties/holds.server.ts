import { getDb, type MachineHoldRow, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { type Actor, neededAuthorisation, whyNotWork } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";
import { addToChain, vouchedReturn } from "~/kit/server/record-chain.server";

import * as sql from "./holds.sql";
import { closeWithHold, repairsOf } from "./left/open-items.server";

/** A machine out of service, and why. */
export interface HoldView extends Pick<
  MachineHoldRow,
  "id" | "machineId" | "reason" | "sheetId" | "entryId" | "since" | "clearedAt" | "clearedNote"
> {
  machineName: string;
  machineTag: string;
  siteName: string;
  byName: string;
  clearedByName: string | null;
}

/** Takes a machine out of service because of an unsafe finding; the same finding holds it once. */
export async function holdMachine(
  hold: {
    machineId: string;
    reason: string;
    sheetId: string | null;
    entryId: string | null;
    byPerson: string;
    since: Date;
  },
  tx: Transaction,
): Promise<void> {
  await getDb().models.MachineHold.bulkCreate(
    [{ id: uuidv7(), ...hold, clearedBy: null, clearedAt: null, clearedNote: "" }],
    {
      transaction: tx,
      ignoreDuplicates: true,
    },
  );
}

/** Machines out of service, longest first. */
export async function openHolds(limit = 50): Promise<HoldView[]> {
  return sql.openHolds(limit);
}

/** A machine's holds, open ones first. */
export async function holdsOf(machineId: string): Promise<HoldView[]> {
  return sql.holdsOfMachine({
    machineId,
  });
}

/** Which of these machines are out of service. */
export async function heldAmong(machineIds: readonly string[]): Promise<Set<string>> {
  if (machineIds.length === 0) return new Set();
  const rows = await sql.heldMachines({
    machineIds,
  });
  return new Set(rows.map((row) => row.id));
}

export interface Clearance {
  holdId: string;
  /** The duty with which the repair is done; null while the sheet that stopped the machine is open. */
  repairDutyId: string | null;
  /** The authorisation that the repair takes, and with it the return. */
  needs: string | null;
  /** Why this person may not return the machine; null when they may. */
  whyNot: string | null;
}

/** Who may return a machine, open hold by open hold. */
export async function clearancesOf(actor: Actor, holds: readonly HoldView[], today: string): Promise<Clearance[]> {
  const open = holds.filter((hold) => hold.clearedAt === null);
  const repairs = await repairsOf(open);
  const leads = actor.role === "lead" ? null : "Nobody runs it until a lead returns it to service.";
  return open.map((hold): Clearance => {
    const repair = repairs.get(hold.id);
    const needs = repair ? neededAuthorisation(repair) : null;
    return {
      holdId: hold.id,
      repairDutyId: repair?.workDutyId ?? null,
      needs,
      whyNot: repair && needs !== null ? whyNotWork(actor, repair, today) : leads,
    };
  });
}

/** The authorisation that the repair takes is the one that its return takes too; without one it is a lead's business. */
async function refuseOthers(actor: Actor, hold: MachineHoldRow, tx: Transaction, now: Date): Promise<void> {
  const repair = (await repairsOf([hold], tx)).get(hold.id);
  if (!repair || neededAuthorisation(repair) === null) {
    if (actor.role !== "lead") throw new Refusal(403, "not-yours", "Only a lead can return a machine to service.");
    return;
  }
  const why = whyNotWork(actor, repair, dayInZone(now, await zoneOf(hold.machineId, tx)));
  if (why) throw new Refusal(403, "not-authorised", why);
}

/**
 * Returns a machine to service for one hold: a signature of a lead, or of who has the authorisation that it takes, kept in the chain of records. The caller has checked the
 * password.
 */
export async function clearHold(actor: Actor, holdId: string, note: string, now: Date): Promise<string> {
  return getDb().transact(async (tx) => {
    const hold = await getDb().models.MachineHold.findByPk(holdId, {
      raw: true,
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    if (!hold) throw new Refusal(404, "no-such-hold", "This hold does not exist.");
    if (hold.clearedAt !== null) throw new Refusal(409, "cleared", "This machine was returned to service already.");
    await refuseOthers(actor, hold, tx, now);
    const cleared = { clearedBy: actor.id, clearedAt: now, clearedNote: note };
    await getDb().models.MachineHold.update(cleared, { where: { id: holdId }, transaction: tx });
    const vouched = vouchedReturn({ ...hold, ...cleared });
    await addToChain(
      { kind: "return-to-service", subjectId: holdId, content: { machineId: hold.machineId }, vouched, at: now },
      tx,
    );
    await audit(
      {
        by: actor,
        subject: "machine",
        subjectId: hold.machineId,
        action: "returned to service",
        details: { reason: hold.reason, note },
        now,
      },
      tx,
    );
    await closeWithHold(actor, hold, note, now, tx);
    return hold.machineId;
  });
}
