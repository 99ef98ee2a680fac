import { getDb } from "@db";

import { assessMachine } from "~/duties/assess.server";
import { intervalsOf, sameIntervals } from "~/duties/intervals";
import { lockMachines } from "~/duties/lock-machines.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

/**
 * Accepts or refuses a proposed interval, with the reason. Accepted, the duty comes by it from now on; what it was given at first
 * stays known, and the machine's trail tells of both.
 *
 * @throws Refusal when it was decided already, or the rules were changed since: then it is put away
 */
export async function decideInterval(
  by: Actor,
  { id, accept, reason }: { id: string; accept: boolean; reason: string },
  now: Date,
): Promise<void> {
  const db = getDb();
  const { models } = db;
  const outdated = await db.transact(async (tx) => {
    const one = { raw: true, transaction: tx, lock: tx.LOCK.UPDATE } as const;
    const known = await models.IntervalProposal.findByPk(id, {
      attributes: ["dutyId", "machineId"],
      raw: true,
      transaction: tx,
    });
    // In the order in which whoever proposes goes.
    if (known) await lockMachines([known.machineId], tx);
    const duty = known && (await models.Duty.findByPk(known.dutyId, one));
    const proposal = await models.IntervalProposal.findByPk(id, one);
    if (!duty || !proposal) throw new Refusal(404, "no-such-proposal", "This proposal does not exist.");
    if (proposal.status !== "open")
      throw new Refusal(
        409,
        "decided",
        "This proposal is open no more: somebody decided on it, or a later finding took its place.",
      );
    const isOutdated = !sameIntervals(proposal.oldRules, duty.rules);
    const status = isOutdated ? "replaced" : accept ? "accepted" : "refused";
    await models.IntervalProposal.update(
      { status, openDutyId: null, decidedAt: now, decidedBy: by.id, reason },
      { where: { id }, transaction: tx },
    );
    if (isOutdated) return true;
    if (accept) {
      const { intervalFactor: _, ...rules } = duty.rules;
      const tuned = { ...rules, ...proposal.newRules, given: duty.rules.given ?? intervalsOf(duty.rules) };
      await models.Duty.update({ rules: tuned }, { where: { id: duty.id }, transaction: tx });
    }
    await audit(
      {
        by,
        subject: "duty",
        subjectId: duty.id,
        action: accept ? "interval tuned" : "interval kept",
        details: {
          reason,
          because: proposal.because,
          old: { rules: proposal.oldRules },
          new: { rules: proposal.newRules },
        },
        now,
      },
      tx,
    );
    if (accept) await assessMachine(duty.machineId, now, tx);
    return false;
  });
  if (outdated)
    throw new Refusal(
      409,
      "changed",
      "The rules of this duty were changed since: the proposal no longer applies, and is put away.",
    );
}
