import { errorNumber } from "./error-number";

/** What an operator wants to know of the database, as it happens. */
export interface DbWatch {
  /** A statement that had an answer, with how long that took, its connection included. */
  asked(statement: { verb: Verb; ms: number; sql: string }): void;
  /** A statement that failed: the database's own number (0: none) and text. */
  failed(failure: { number: number; text: string; sql: string }): void;
  /** Another writer won: the work is done again. */
  again(number: number): void;
  /** Another host is worked with. */
  host(at: { host: string; port: number }): void;
}
const VERBS = ["select", "insert", "update", "delete", "begin", "commit", "rollback"] as const;
export type Verb = (typeof VERBS)[number] | "other";

const nobody: DbWatch = { asked: () => {}, failed: () => {}, again: () => {}, host: () => {} };
/** Kept on the global object, as the pool is. */
const holder = globalThis as { houndDbWatch?: DbWatch };

export const dbWatch = (): DbWatch => holder.houndDbWatch ?? nobody;
export function setDbWatch(watch: DbWatch): void {
  holder.houndDbWatch = watch;
}

const MOST_SQL = 600;

/** A statement without what is in it: values are people's. */
export function withoutValues(sql: string): string {
  return sql
    .replaceAll(/'(?:[^'\\]|\\.|'')*'/gsu, "?")
    .replaceAll(/\b(?:x\?|0x[0-9a-f]+|\d+(?:\.\d+)?)/giu, "?")
    .replaceAll(/\?(?:,\s*\?)+/gu, "?, …")
    .replaceAll(/\((?:\?|\?, …)\)(?:,\s*\((?:\?|\?, …)\))+/gu, "(?), …")
    .replaceAll(/\s+/gu, " ")
    .trim()
    .slice(0, MOST_SQL);
}

export function verbOf(sql: string): Verb {
  const word = /^\s*([a-z]+)/iu.exec(sql)?.[1]?.toLowerCase();
  if (word === "start") return "begin";
  return VERBS.find((verb) => verb === word) ?? "other";
}

/** Tells of a statement as it goes. */
export async function watched<T>(sql: string, ask: () => Promise<T>): Promise<T> {
  const began = performance.now();
  try {
    const answer = await ask();
    dbWatch().asked({ verb: verbOf(sql), ms: performance.now() - began, sql });
    return answer;
  } catch (error) {
    dbWatch().failed({ number: errorNumber(error), text: (error as Error).message, sql });
    throw error;
  }
}
