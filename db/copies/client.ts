import { type ChildProcess, spawn } from "node:child_process";

import { createConnection, type RowDataPacket } from "mysql2/promise";

import { type Access, accessOf, type Host, readHosts } from "../hosts";

/** Where a database is and who asks, for MariaDB's own programs. */
export type Place = Host & Access;

const NO_ANSWER_MS = 5000;

/** The first host of a URL that answers. @throws with the words of the last one when none does */
export async function placeOf(several: string): Promise<Place> {
  const { url, hosts } = readHosts(several);
  const access = accessOf(url);
  let failure: unknown = new Error("DATABASE_URL names no host.");
  for (const host of hosts) {
    const place = { ...host, ...access };
    try {
      await ask(place, "SELECT 1");
      return place;
    } catch (error) {
      failure = error;
    }
  }
  throw failure;
}

export async function ask<Row>(place: Place, sql: string): Promise<Row[]> {
  const connection = await createConnection({ ...place, connectTimeout: NO_ANSWER_MS });
  try {
    const [rows] = await connection.query<RowDataPacket[]>(sql);
    return rows as Row[];
  } finally {
    connection.destroy();
  }
}

/** Starts one of MariaDB's programs. The password is not among the arguments, where every user of the machine could read it. */
export function program(name: string, place: Place | null, args: readonly string[]): ChildProcess {
  const access = place ? [`--host=${place.host}`, `--port=${place.port}`, `--user=${place.user}`] : [];
  return spawn(name, ["--no-defaults", ...access, ...args], {
    stdio: ["pipe", "pipe", "pipe"],
    // Moments are given and taken in UTC.
    env: { ...process.env, TZ: "UTC", ...(place ? { MYSQL_PWD: place.password } : {}) },
  });
}

const MOST_WORDS = 4000;

/** Waits for a program's end. @throws with what it said when that was not a good one */
export function ended(child: ChildProcess, name: string): Promise<void> {
  let words = "";
  child.stderr?.on("data", (chunk: Buffer) => (words = (words + chunk.toString()).slice(-MOST_WORDS)));
  return new Promise((resolve, reject) => {
    child.once("error", (error) => reject(new Error(`${name} could not be started: ${error.message}`)));
    child.once("close", (code) =>
      code === 0 ? resolve() : reject(new Error(`${name} ended with ${code}: ${words.trim()}`)),
    );
  });
}
