import { type Claim, claims, ER_DUP_ENTRY, errorNumber, getDb, Op, type SubmissionRow } from "@db";

import { UUID } from "~/kit/forms/fields";

/** What is kept of an answer: never what came out, which may be a secret that is shown once. */
export type KeptAnswer = NonNullable<SubmissionRow["answer"]>;

/** Longer than anybody presses the same button for. */
const KEEP_MS = 2 * 86_400_000;

/** The key that a page's script sends along, so that the same thing sent again is known; null without one. */
export function submissionKey(request: Request): string | null {
  const key = request.headers.get("Idempotency-Key");
  return key !== null && UUID.test(key) ? key.toLowerCase() : null;
}

class DoneAlready extends Error {}

/**
 * Does what was sent once, however often it is sent: its key is written in the first transaction of the work, so that both
 * are there or neither. Who sends it again is told what was said then.
 *
 * @param keep what of the outcome may be kept for that
 * @returns the outcome, or what is known of the first time (`answer` null: only that it was done)
 */
export async function once<Outcome>(
  sent: { key: string; personId: string | null; now: Date },
  work: () => Promise<Outcome>,
  keep: (outcome: Outcome) => KeptAnswer | null,
): Promise<{ outcome: Outcome } | { before: true; answer: KeptAnswer | null }> {
  const { models } = getDb();
  const { key: id, personId, now } = sent;
  const known = await models.Submission.findByPk(id, { raw: true });
  // A key of somebody else's is no way to their answer.
  if (known) return { before: true, answer: known.personId === personId ? known.answer : null };
  const claim: Claim = {
    taken: false,
    done: false,
    write: async (tx) => {
      try {
        await models.Submission.create({ id, personId, at: now, answer: null }, { transaction: tx });
      } catch (error) {
        throw errorNumber(error) === ER_DUP_ENTRY ? new DoneAlready() : error;
      }
    },
  };
  let outcome: Outcome;
  try {
    outcome = await claims.run(claim, work);
  } catch (error) {
    if (error instanceof DoneAlready) {
      const first = await models.Submission.findByPk(id, { raw: true });
      return { before: true, answer: first?.personId === personId ? first.answer : null };
    }
    // Refused half-way: whoever presses again is to get the rest done.
    if (claim.done) await models.Submission.destroy({ where: { id } }).catch(() => undefined);
    throw error;
  }
  const answer = keep(outcome);
  if (claim.done) await models.Submission.update({ answer }, { where: { id } }).catch(() => undefined);
  return { outcome };
}

/** Forgets a few that nobody sends again. */
export async function sweepSubmissions(now: Date): Promise<void> {
  await getDb().models.Submission.destroy({
    where: { at: { [Op.lt]: new Date(now.getTime() - KEEP_MS) } },
    limit: 200,
  });
}
