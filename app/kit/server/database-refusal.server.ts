import { errorNumber, isConnectionLost } from "@db";

import { Refusal } from "~/kit/refusal";

import { logError } from "./log.server";

const GONE = "Something that this refers to is not there any more. Load the page again.";

/** What the database refuses, in words: the last line behind the schemas, by MariaDB's error numbers. */
const WORDS: Record<number, [status: 409 | 422, words: string]> = {
  1048: [422, "Something is missing in it."],
  1062: [409, "There is one of this kind already. Load the page again to see it."],
  1264: [422, "A number in it is larger than the books can hold."],
  1267: [422, "It has signs in it that cannot be kept here."],
  1292: [422, "A day or a number in it does not exist."],
  1366: [422, "It has signs in it that cannot be kept."],
  1406: [422, "A text in it is too long."],
  1451: [409, "Other things still refer to this. Load the page again."],
  1452: [409, GONE],
  1690: [422, "A number in it is larger than the books can hold."],
  4025: [422, "A value in it is not possible."],
};

/** Full, read-only, overrun, shutting down, no part of its cluster, or waited for in vain. */
const AWAY = new Set([
  1021, 1037, 1040, 1047, 1053, 1077, 1114, 1180, 1203, 1205, 1213, 1226, 1290, 1836, 1927, 1969, 2006, 2013, 3024,
]);
export const DATABASE_AWAY =
  "The database does not answer, or takes nothing, right now. Nothing that was logged is lost. Try again in a moment.";

/** Whether the database is not there, or can take nothing at all: nothing is wrong with what was sent. */
export const isDatabaseAway = (error: unknown): boolean =>
  error instanceof Error && (AWAY.has(errorNumber(error)) || isConnectionLost(error));

/** A refusal of the database as one of ours; null for everything else. */
export function databaseRefusal(error: unknown): Refusal | null {
  if (isDatabaseAway(error)) {
    logError(`The database: ${(error as Error).message}`);
    return new Refusal(503, "database-away", DATABASE_AWAY);
  }
  const number = errorNumber(error);
  const known = Object.hasOwn(WORDS, number) ? WORDS[number] : undefined;
  return known ? new Refusal(known[0], `database-${number}`, known[1]) : null;
}

/** An expected "no", from a service or from the database; null when it is a fault. */
export function asRefusal(error: unknown): Refusal | null {
  return error instanceof Refusal ? error : databaseRefusal(error);
}
