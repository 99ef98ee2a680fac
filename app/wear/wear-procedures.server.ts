import { type Procedure, type WearRule, wearRule } from "@core";
import { getDb, Op, type Transaction } from "@db";

import * as sql from "./wear.sql";

/** What the newest version of a procedure says of wear. */
export interface WearProcedure {
  id: string;
  /** With the options of the machine by which the step is there. */
  rules: (WearRule & { options: { option: string; fitted: boolean }[] })[];
  /** What parts wear by. */
  meters: { id: string; name: string; unit: string }[];
  /** Steps that renew parts, with the minutes they take. */
  renews: { item: string; slots: string[]; minutes: number }[];
  parts: { item: string; name: string; slots: { id: string; name: string }[]; pair: boolean; uses: number }[];
}

/** Of a step that says no minutes (common practice). */
const USUAL_MINUTES = 10;
/** A published version never changes. */
const kept = new Map<string, WearProcedure>();
const MOST_KEPT = 500;

/** The newest versions of these procedures, as far as wear is concerned. */
export async function wearProcedures(ids: readonly string[], tx?: Transaction): Promise<Map<string, WearProcedure>> {
  const found = new Map<string, WearProcedure>();
  if (ids.length === 0) return found;
  const newest = await sql.newestVersions({ ids: [...new Set(ids)] }, tx);
  const missing = newest.filter(({ id, version }) => !kept.has(`${id}@${version}`));
  if (missing.length > 0) {
    if (kept.size > MOST_KEPT) kept.clear();
    const rows = await getDb().models.Procedure.findAll({
      where: { [Op.or]: missing },
      raw: true,
      transaction: tx ?? null,
    });
    for (const row of rows) kept.set(`${row.id}@${row.version}`, wearOf(row.expanded ?? row.body));
  }
  for (const { id, version } of newest) {
    const one = kept.get(`${id}@${version}`);
    if (one) found.set(id, one);
  }
  return found;
}

function wearOf(procedure: Procedure): WearProcedure {
  return {
    id: procedure.id,
    rules: procedure.steps.flatMap((step) => {
      const rule = wearRule(step);
      const options = (step.when ?? []).flatMap((one) => ("option" in one ? [one] : []));
      return rule ? [{ ...rule, options }] : [];
    }),
    meters: procedure.meters.map(({ id, name, unit }) => ({ id, name, unit })),
    renews: procedure.steps.flatMap((step) =>
      step.kind === "replace" ? [{ item: step.item, slots: step.slots, minutes: step.minutes ?? USUAL_MINUTES }] : [],
    ),
    parts: procedure.parts.map(({ item, name, slots, pair, uses }) => ({
      ...{ item, name, slots },
      pair: pair === true,
      uses: uses ?? 1,
    })),
  };
}
