import { type DbWatch, withoutValues } from "@db";

/** Part of the process's log that is used here. */
export interface Log {
  debug(what: object, text: string): void;
  warn(what: object, text: string): void;
  error(what: object, text: string): void;
}

/** Met every day by who works beside others: done again, or told in words. */
const EXPECTED = new Set([1020, 1062, 1205, 1213]);

/** Writes to the log what an operator looks for: statements that were slow, and what the database itself said of those that failed. */
export function loggedDatabase(log: Log, slowMs: number): DbWatch {
  return {
    asked({ ms, sql }) {
      if (ms >= slowMs) log.warn({ ms: Math.round(ms), sql: withoutValues(sql) }, "slow statement");
    },
    failed({ number, text, sql }) {
      const what = { errno: number, said: text, sql: withoutValues(sql) };
      if (EXPECTED.has(number)) log.debug(what, "statement failed");
      else log.error(what, "statement failed");
    },
    again: (number) => log.debug({ errno: number }, "another writer won: done again"),
    host: ({ host, port }) => log.warn({ host, port }, "works with this database host from now on"),
  };
}
