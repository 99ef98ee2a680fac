import { ER_DUP_ENTRY, errorNumber, getDb, type InstrumentRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

import * as sql from "./instruments.sql";

export type InstrumentInput = Pick<InstrumentRow, "code" | "kind" | "name" | "calibrationDue" | "certificate">;

/** Measuring instruments, those in use first, by kind and code. */
export async function listInstruments(): Promise<InstrumentRow[]> {
  return getDb().models.Instrument.findAll({
    order: [
      [getDb().sequelize.literal("retired_at IS NOT NULL"), "ASC"],
      ["kind", "ASC"],
      ["code", "ASC"],
    ],
    limit: 1000,
    raw: true,
  });
}

/** Instruments of the given kinds that are in use. */
export async function instrumentsOfKinds(kinds: readonly string[]): Promise<InstrumentRow[]> {
  if (kinds.length === 0) return [];
  return getDb().models.Instrument.findAll({
    where: { kind: [...kinds], retiredAt: null },
    order: [["code", "ASC"]],
    raw: true,
  });
}

/** Number and name of instruments by id. */
export async function instrumentNames(ids: readonly string[]): Promise<Record<string, string>> {
  if (ids.length === 0) return {};
  const rows = await sql.instrumentNames({
    ids: [...new Set(ids)],
  });
  return Object.fromEntries(rows.map((row) => [row.id, row.name]));
}

export async function addInstrument(actor: Actor, input: InstrumentInput, now: Date): Promise<string> {
  const id = uuidv7();
  await unlessTaken(input.code, () =>
    getDb().transact(async (tx) => {
      await getDb().models.Instrument.create({ id, ...input, retiredAt: null }, { transaction: tx });
      await audit({ by: actor, subject: "instrument", subjectId: id, action: "added", details: input, now }, tx);
    }),
  );
  return id;
}

/** Changes an instrument, or takes it out of use; old and new values stay in the log of changes. */
export async function changeInstrument(
  actor: Actor,
  id: string,
  input: InstrumentInput & { retired: boolean },
  why: string,
  now: Date,
): Promise<void> {
  const { retired, ...fields } = input;
  await unlessTaken(input.code, () =>
    getDb().transact(async (tx) => {
      const old = await getDb().models.Instrument.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
      if (!old) throw new Refusal(404, "no-such-instrument", "This instrument is not in the register.");
      const changed = { ...fields, retiredAt: retired ? (old.retiredAt ?? now) : null };
      await getDb().models.Instrument.update(changed, { where: { id }, transaction: tx });
      await audit(
        {
          by: actor,
          subject: "instrument",
          subjectId: id,
          action: "changed",
          details: { why, old, new: changed },
          now,
        },
        tx,
      );
    }),
  );
}

async function unlessTaken(code: string, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (errorNumber(error) === ER_DUP_ENTRY) throw new Refusal(409, "code", `There is an instrument ${code} already.`);
    throw error;
  }
}
