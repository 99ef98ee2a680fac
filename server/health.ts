import { getDb, pendingMigrations } from "@db";
import type { Request, Response } from "express";

import { probeWriting } from "~/kit/server/leases.server";

const LIMIT_MS = 3000;
/** Several who ask at once are told the same. */
const GOOD_FOR_MS = 1000;

/** 200 while the process answers at all: who starts processes again asks here. */
export function health(_request: Request, response: Response): void {
  response.json({ status: "ok", build: process.env.HOUND_BUILD ?? "dev" });
}

/** 200 when the app can do its work, else 503 with the reason: load balancers ask here. */
export async function ready(_request: Request, response: Response): Promise<void> {
  const reason = await reasonNotReady();
  response.set("Cache-Control", "no-store");
  if (reason === null) response.json({ status: "ready", build: process.env.HOUND_BUILD ?? "dev" });
  else response.status(503).json({ status: "not-ready", reason });
}

let asked: { at: number; answer: Promise<string | null> } | null = null;

/** Why no work can be done; null when it can. Reads a table and writes a row: a server that only answers may do neither. */
export function reasonNotReady(now = Date.now()): Promise<string | null> {
  if (!asked || now - asked.at > GOOD_FOR_MS) asked = { at: now, answer: ask() };
  return asked.answer;
}

async function ask(): Promise<string | null> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const tooLate = new Promise<string>((resolve) => {
    timer = setTimeout(() => resolve(`The database did not answer within ${LIMIT_MS / 1000} s.`), LIMIT_MS);
  });
  const work = async (): Promise<string | null> => {
    const pending = await pendingMigrations(getDb().sequelize);
    if (pending.length > 0) return `The schema is behind (${pending.join(", ")}). Run: npm run migrate`;
    // On a full disk, or a node that has lost its cluster, this is what fails.
    await probeWriting(String(process.pid), new Date());
    return null;
  };
  try {
    return await Promise.race([work().catch((error: unknown) => `The database: ${(error as Error).message}`), tooLate]);
  } finally {
    clearTimeout(timer);
  }
}

const LOOK_EVERY_MS = 10_000;

/** Ends a process that could do no work for long: who starts it again may find it a database that answers. */
export function endWhenUnreadyForLong(env: NodeJS.ProcessEnv, end: (reason: string) => void): void {
  const minutes = Number(env.HOUND_END_AFTER_MIN ?? 10);
  if (!(minutes > 0)) return;
  let since: number | null = null;
  setInterval(() => {
    void reasonNotReady().then((reason) => {
      if (reason === null) since = null;
      else since ??= Date.now();
      if (reason !== null && since !== null && Date.now() - since > minutes * 60_000)
        end(`No work could be done for ${minutes} minutes: ${reason}`);
    });
  }, LOOK_EVERY_MS).unref();
}
