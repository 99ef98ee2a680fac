import { getDb, Op, tryAgain } from "@db";
import { RateLimiterMySQL, RateLimiterRes } from "rate-limiter-flexible";

import { Refusal } from "~/kit/refusal";

interface Limits {
  perName: RateLimiterMySQL;
  perAddress: RateLimiterMySQL;
  perLinkAddress: RateLimiterMySQL;
}

const holder = globalThis as { houndLimits?: Limits };

/** Counted in the database, so that every app process counts together. */
function limits(): Limits {
  if (!holder.houndLimits) {
    const limiter = (keyPrefix: string, points: number, minutes: number) =>
      new RateLimiterMySQL({
        storeClient: getDb().sequelize,
        storeType: "sequelize",
        dbName: getDb().sequelize.getDatabaseName(),
        tableName: "rate_limits",
        tableCreated: true,
        clearExpiredByTimeout: false,
        keyPrefix,
        points,
        duration: minutes * 60,
      });
    holder.houndLimits = {
      perName: limiter("name", 8, 15),
      perAddress: limiter("addr", Number(process.env.SIGN_IN_PER_ADDRESS ?? 60), 15),
      perLinkAddress: limiter("link", Number(process.env.LINKS_PER_ADDRESS ?? 240), 15),
    };
  }
  return holder.houndLimits;
}

/**
 * Tries count for a name from an address: a stranger's wrong tries lock out the stranger, not the person. Full-width letters
 * and accents are other names.
 */
const keyOf = (signIn: string, address: string): string => `${signIn.slice(0, 120)}|${address}`;

/** Counts an attempt; refuses when there were too many for this name from this address, or from this address. */
export async function countSignIn(signIn: string, address: string): Promise<void> {
  const { perName, perAddress } = limits();
  try {
    await tryAgain(() => perAddress.consume(address));
    await tryAgain(() => perName.consume(keyOf(signIn, address)));
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    const minutes = Math.max(1, Math.ceil(error.msBeforeNext / 60_000));
    throw new Refusal(
      429,
      "too-many",
      `Too many tries. Wait ${minutes} ${minutes === 1 ? "minute" : "minutes"}, or ask a lead to reset the password.`,
    );
  }
}

export async function forgetSignIns(signIn: string, address: string): Promise<void> {
  await tryAgain(() => limits().perName.delete(keyOf(signIn, address)));
}

/** Forgets a person's wrong tries, wherever they came from: after a lead has set the password anew. */
export async function forgetAllSignIns(signIn: string): Promise<void> {
  await getDb().models.RateLimit.destroy({ where: { key: { [Op.startsWith]: `name:${signIn.slice(0, 120)}|` } } });
}

/** Counts a request to a link without sign-in; refuses when one address sends too many. */
export async function countLinkUse(address: string): Promise<void> {
  try {
    await tryAgain(() => limits().perLinkAddress.consume(address));
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw new Refusal(
      429,
      "too-many",
      "Too many requests from here. Wait a quarter of an hour and try again; nothing that was sent is lost.",
    );
  }
}
