import { foldRun, instantMs, type MissingStep, missingSteps, must, type RunEvent } from "@core";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";

import { onSheets, type SheetLog } from "./append-entries.server";
import { procedureOf, readEntries } from "./sheet-context.server";
import { entry } from "./sheets.server";

export type CustomerSignature =
  | { method: "drawn"; name: string; drawing: string }
  | { method: "typed"; name: string }
  | { method: "not-present"; reason: string };

export interface ToSign {
  sheetId: string;
  /** Why it is signed though steps are missing. */
  missingReason: string | null;
}

type Signed = { signed: true } | { signed: false; missing: { sheetId: string; steps: MissingStep[] }[] };

/**
 * Closes the sheets of a visit with one signature of the customer and one of the technician: all of them, or none. The caller has
 * checked the password. What is signed already stays as it is: sent twice, it is signed once.
 *
 * @returns what is missing where a sheet is not complete and no reason was given; nothing is signed then
 * @throws Refusal when one was ended without the work, or they are of several sites
 */
export async function signSheets(
  actor: Actor,
  toSign: readonly ToSign[],
  input: { customer: CustomerSignature; device: string },
  now: Date,
): Promise<Signed> {
  const ids = toSign.map((one) => one.sheetId);
  return onSheets(actor, ids, now, async (logs) => {
    if (new Set(logs.map((log) => log.context.duty.siteId)).size > 1)
      throw new Refusal(422, "several-sites", "One signature is for one site. Sign the sheets of each by themselves.");
    const open: SheetToSign[] = [];
    for (const log of logs) {
      const one = await readToSign(log, must(toSign.find(({ sheetId }) => sheetId === log.context.sheet.id)));
      if (one) open.push(one);
    }
    const lacking = open.filter((one) => one.missing.length > 0 && !one.missingReason);
    if (lacking.length > 0)
      return {
        signed: false,
        missing: lacking.map(({ log, missing }) => ({ sheetId: log.context.sheet.id, steps: missing })),
      };
    const together = open.length > 1 ? { sheets: open.map(({ log }) => log.context.sheet.id) } : {};
    for (const one of open) await signOne(actor, one, { ...input, customer: { ...input.customer, ...together } }, now);
    return { signed: true };
  });
}

/** {@link signSheets} of one. */
export async function signSheet(
  actor: Actor,
  sheetId: string,
  { missingReason, ...input }: { customer: CustomerSignature; missingReason: string | null; device: string },
  now: Date,
): Promise<{ signed: true } | { signed: false; missing: MissingStep[] }> {
  const result = await signSheets(actor, [{ sheetId, missingReason }], input, now);
  return result.signed ? result : { signed: false, missing: must(result.missing[0]).steps };
}

interface SheetToSign {
  log: SheetLog;
  entries: RunEvent[];
  missing: MissingStep[];
  missingReason: string | null;
}

/** What there is to sign; null when it is signed. */
async function readToSign(log: SheetLog, { missingReason }: ToSign): Promise<SheetToSign | null> {
  const { context, tx } = log;
  const procedure = await procedureOf(context.sheet, tx);
  const entries = await readEntries(context.sheet.id, tx);
  const state = foldRun(procedure, entries);
  if (state.status === "signed") return null;
  if (state.status === "ended")
    throw new Refusal(409, "ended", "This sheet was ended without the work. Open a new one from the duty.");
  return {
    log,
    entries,
    missing: missingSteps(procedure, state, { options: context.options }),
    missingReason,
  };
}

async function signOne(
  actor: Actor,
  { log, entries, missing, missingReason }: SheetToSign,
  input: { customer: CustomerSignature & { sheets?: string[] }; device: string },
  now: Date,
): Promise<void> {
  const sheetId = log.context.sheet.id;
  // A device's clock may be ahead: the signature still comes after everything it signs.
  const at = new Date(Math.max(now.getTime(), ...entries.map((one) => instantMs(one.at, "at") + 1)));
  const customer = entry(actor, sheetId, input.device, at, { type: "signed", role: "customer", ...input.customer });
  const technician = entry(actor, sheetId, input.device, at, {
    type: "signed",
    role: "technician",
    name: actor.name,
    method: "password",
    eventCount: entries.length,
    entries: [...entries.map((one) => one.id), customer.id],
    ...(missing.length > 0 && missingReason ? { missingReason } : {}),
  });
  await log.take([customer, technician]);
}
