import { createServer } from "node:http";

import { type DbWatch, getDb, setDbWatch, type Verb } from "@db";
import type { NextFunction, Request, Response } from "express";
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from "prom-client";

import { type State, stateOfWork } from "~/shell/state-of-work.server";

import { routeOf } from "./route-of";
import { type Log, loggedDatabase } from "./watch-database";

const SECONDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];
const SLOW_MS = 1000;

const registry = new Registry();
const make = <Labels extends string>(name: string, help: string, labelNames: Labels[] = []) => ({
  name: `hound_${name}`,
  help,
  labelNames,
  registers: [registry],
});

const requests = new Histogram({
  ...make("request_seconds", "Time of answers, by page and status", ["method", "route", "status"]),
  buckets: SECONDS,
});
const statements = new Histogram({
  ...make("statement_seconds", "Time of database statements with the wait for a connection", ["verb"]),
  buckets: SECONDS,
});
const failures = new Counter(
  make("statement_failures_total", "Statements that failed, by MariaDB's number", ["errno"]),
);
const conflicts = new Counter(make("conflicts_total", "Work done again because another writer won", ["errno"]));
const hosts = new Counter(make("database_host_changes_total", "Times that another database host was gone on with"));

/** More kinds of pages than there are: whoever makes addresses up fills no memory. */
const MOST_ROUTES = 300;
const routes = new Set<string>();

function known(route: string): string {
  if (routes.size < MOST_ROUTES) routes.add(route);
  return routes.has(route) ? route : "other";
}

/** Counts an answer when it has gone out. */
export function countRequest(request: Request, response: Response, next: NextFunction): void {
  const end = requests.startTimer();
  const route = routeOf(request.path);
  response.once("finish", () =>
    end({
      method: request.method,
      // What is not there can be asked for under any name.
      route: response.statusCode === 404 ? "none" : known(route),
      status: String(response.statusCode),
    }),
  );
  next();
}

/** Watches the process and its database from now on: into the log, and for who asks at the port of the metrics. */
export function watchProcess(log: Log, env: NodeJS.ProcessEnv): void {
  const logged = loggedDatabase(log, Number(env.DB_SLOW_MS ?? SLOW_MS));
  const watch: DbWatch = {
    asked(statement) {
      statements.observe({ verb: statement.verb satisfies Verb }, statement.ms / 1000);
      logged.asked(statement);
    },
    failed(failure) {
      failures.inc({ errno: failure.number });
      logged.failed(failure);
    },
    again(number) {
      conflicts.inc({ errno: number });
      logged.again(number);
    },
    host(at) {
      hosts.inc();
      logged.host(at);
    },
  };
  setDbWatch(watch);
}

const gauges = {
  pool: new Gauge({
    ...make("pool_connections", "Connections to the database, and who waits for one", ["state"]),
    collect() {
      const { open, idle, waiting } = getDb().pool();
      this.set({ state: "busy" }, open - idle);
      this.set({ state: "idle" }, idle);
      this.set({ state: "waiting" }, waiting);
    },
  }),
  jobs: new Gauge(make("jobs", "Long work that waits or is done", ["state"])),
  jobAge: new Gauge(make("job_oldest_seconds", "Since when the oldest open job was asked for")),
  messages: new Gauge(make("messages", "Messages that were not sent yet, or given up", ["state"])),
  messageAge: new Gauge(make("message_oldest_seconds", "Since when the oldest unsent message waits")),
  duties: new Gauge(make("duties", "Duties by their state", ["state"])),
};
/** Failed when it could not be said: an old number would be taken for a new one. */
const told = new Gauge(make("state_of_work_known", "1 when the database could be asked for the gauges of work"));

function setState(state: State | null): void {
  told.set(state ? 1 : 0);
  for (const gauge of [gauges.jobs, gauges.jobAge, gauges.messages, gauges.messageAge, gauges.duties]) gauge.reset();
  if (!state) return;
  for (const [name, count] of Object.entries(state.jobs)) gauges.jobs.set({ state: name }, count);
  for (const [name, count] of Object.entries(state.messages)) gauges.messages.set({ state: name }, count);
  for (const [name, count] of Object.entries(state.duties)) gauges.duties.set({ state: name }, count);
  gauges.jobAge.set(state.oldestJobSeconds);
  gauges.messageAge.set(state.oldestMessageSeconds);
}

/** Several who ask are told the same: the count of duties is not free. */
const GOOD_FOR_MS = 30_000;

/**
 * Serves the metrics in the text format that collectors of metrics read, at `/metrics` of a port of their own: what is told there is no
 * customer's business.
 *
 * @returns stops it
 */
export async function startMetrics(port: number, host: string): Promise<() => Promise<void>> {
  collectDefaultMetrics({ register: registry, prefix: "hound_" });
  let asked = 0;
  const server = createServer((request, response) => {
    void (async () => {
      if (request.url !== "/metrics") {
        response.writeHead(404).end();
        return;
      }
      if (Date.now() - asked > GOOD_FOR_MS) {
        asked = Date.now();
        setState(await stateOfWork(new Date()).catch(() => null));
      }
      response.writeHead(200, { "Content-Type": registry.contentType }).end(await registry.metrics());
    })().catch((error: unknown) => response.writeHead(500).end((error as Error).message));
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, host, resolve);
  });
  return () => new Promise((resolve) => server.close(() => resolve()));
}
