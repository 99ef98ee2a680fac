import { availableParallelism } from "node:os";

import { CoreError } from "@core";
import { Piscina } from "piscina";

import { Refusal } from "~/kit/refusal";

import type { AsideAnswer } from "./aside-answer";
import { type Searches, searches } from "./searches";

/** What is done in worker threads: searches, and the reading of files. */
export type AsideWork = keyof Searches | "readTable" | "parseRegister" | "parseProcedure" | "formFaults" | "drawBundle";

interface Queue {
  threads: number;
  /** As many wait at most; more are told to come again. */
  waiting: number;
  /** Longer than it may take: what has not answered by then never will. */
  seconds: number;
}

/** Apart, so that a file or a year's work is not what a day's plan waits for. */
const QUEUES = {
  plans: { threads: Math.max(1, availableParallelism() - 1), waiting: 60, seconds: 60 },
  ahead: { threads: 1, waiting: 4, seconds: 40 },
  files: { threads: 1, waiting: 20, seconds: 60 },
  bundles: { threads: 1, waiting: 2, seconds: 300 },
} satisfies Record<string, Queue>;
const IDLE_MS = 60_000;

const pools = new Map<keyof typeof QUEUES, Piscina>();

function poolOf(queue: keyof typeof QUEUES, filename: string): Piscina {
  const known = pools.get(queue);
  if (known) return known;
  const { threads } = QUEUES[queue];
  const pool = new Piscina({
    filename,
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: IDLE_MS,
    // What grows without end ends its thread, not the process.
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  });
  pools.set(queue, pool);
  return pool;
}

/**
 * Does in a worker thread what would hold the process for longer than a request may, so that other requests are answered
 * meanwhile. `server.js` says where the built worker is; without one (development, tests of the services) it is done here.
 *
 * @throws what the work throws; Refusal 429 when too many wait, 422 when it takes too long
 */
export async function aside<Args extends unknown[], Out>(
  queue: keyof typeof QUEUES,
  name: AsideWork,
  work: (...args: Args) => Out | Promise<Out>,
  ...args: Args
): Promise<Out> {
  const filename = process.env.HOUND_WORKER;
  if (!filename) return work(...args);
  const pool = poolOf(queue, filename);
  if (pool.queueSize >= QUEUES[queue].waiting)
    throw new Refusal(429, "busy", "Too much of this kind is being worked out right now. Try again in a minute.");
  const signal = AbortSignal.timeout(QUEUES[queue].seconds * 1000);
  const answer = (await pool.run({ name, args, asText: queue === "files" }, { signal }).catch((error: unknown) => {
    throw signal.aborted
      ? new Refusal(
          422,
          "too-long",
          "This takes longer than it may right now. Try again in a minute, or send less of it at once.",
        )
      : error;
  })) as AsideAnswer<Out>;
  if ("out" in answer) return answer.out;
  if ("text" in answer) return JSON.parse(answer.text) as Out;
  const { fault } = answer;
  throw fault.kind === "core"
    ? new CoreError(fault.code, fault.path, fault.message)
    : new Refusal(fault.status, fault.code, fault.message);
}

/** Runs a search in a worker thread. */
export function search<K extends keyof Searches>(
  name: K,
  ...args: Parameters<Searches[K]>
): Promise<Awaited<ReturnType<Searches[K]>>> {
  type Found = Awaited<ReturnType<Searches[K]>>;
  const work = searches[name] as (...all: Parameters<Searches[K]>) => Found | Promise<Found>;
  return aside(name === "levelWeeks" ? "ahead" : "plans", name, work, ...args);
}
