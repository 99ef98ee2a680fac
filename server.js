/**
 * The process around the app: serves static files and the built app, logs, and stops cleanly on SIGTERM. In development
 * (HOUND_DEV=1) Vite compiles on the fly.
 */
import { AsyncLocalStorage } from "node:async_hooks";
import { randomUUID } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { createServer } from "node:http";
import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";

import compression from "compression";
import express from "express";
import staticGzip from "express-static-gzip";
import { pino } from "pino";
import { pinoHttp } from "pino-http";

/** Which request it is that something is done for: on every line of the log. */
const ofRequest = new AsyncLocalStorage();
const log = pino({
  level: process.env.LOG_LEVEL ?? "info",
  base: { app: "humble-hound" },
  mixin: () => {
    const requestId = ofRequest.getStore();
    return requestId ? { requestId } : {};
  },
  redact: ["req.headers.cookie", "req.headers.authorization", 'res.headers["set-cookie"]'],
});
// The built app logs through the same logger, and so does what packages say.
globalThis.houndLog = log;
console.warn = (...words) => log.warn(words.join(" "));
const dev = process.env.HOUND_DEV === "1";
// Scripts may wait as long as a statement takes; whoever looks at a page may not.
process.env.DB_SILENCE_S ??= "15";
const port = Number(process.env.PORT ?? 3000);
const host = process.env.HOST ?? "127.0.0.1";

// Before anything asks: in development faults are told with where they happened.
if (!dev) process.env.NODE_ENV = "production";
let stopPolling = async () => undefined;
let stopJobs = async () => undefined;
let stopMetrics = async () => undefined;
const root = express();
root.disable("x-powered-by");
const server = createServer(root);

if (dev) {
  const { createServer: createVite } = await import("vite");
  const vite = await createVite({ server: { middlewareMode: true, hmr: { server } } });
  root.use(vite.middlewares);
  let working;
  root.use(async (request, response, next) => {
    const { app, startJobs } = await vite.ssrLoadModule("./server/app.ts");
    working ??= startJobs();
    return app(request, response, next);
  });
} else {
  const build = buildFolder();
  process.env.HOUND_BUILD = build.split("/").pop();
  process.env.HOUND_WORKER = join(build, "server/aside-worker.js");
  // They come as they were compressed with the build; all else is compressed on its way.
  root.use(
    "/assets",
    staticGzip(join(build, "client/assets"), {
      enableBrotli: true,
      orderPreference: ["br"],
      index: false,
      serveStatic: { immutable: true, maxAge: "1y" },
    }),
  );
  root.use(compression());
  root.use(express.static(join(build, "client"), { maxAge: "1h" }));
  root.use(
    pinoHttp({
      logger: log,
      genReqId: requestId,
      autoLogging: { ignore: (request) => request.url === "/healthz" || request.url === "/readyz" },
      serializers: { req: shortRequest, res: (response) => ({ status: response.statusCode }) },
    }),
  );
  root.use((request, _response, next) => ofRequest.run(request.id, next));
  const { app, endWhenUnreadyForLong, reasonsNotToStart, startGatewayPolling, startJobs, startMetrics, watchProcess } =
    await import(pathToFileURL(join(build, "server/index.js")).href);
  watchProcess(log, process.env);
  const reasons = await reasonsNotToStart(process.env).catch((error) => [
    `The database does not answer: ${error.message}`,
  ]);
  if (reasons.length > 0) {
    for (const reason of reasons) log.fatal(reason);
    process.exit(1);
  }
  root.use(app);
  if (process.env.GATEWAY_URL) stopPolling = startGatewayPolling(process.env.GATEWAY_URL);
  stopJobs = startJobs();
  if (process.env.METRICS_PORT)
    stopMetrics = await startMetrics(Number(process.env.METRICS_PORT), process.env.METRICS_HOST ?? "127.0.0.1");
  endWhenUnreadyForLong(process.env, (reason) => {
    log.fatal(reason);
    process.exit(1);
  });
}

server.listen(port, host, () => log.info({ port: server.address().port }, "listening"));

let stopping = false;
for (const signal of ["SIGTERM", "SIGINT"]) {
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    log.info({ signal }, "stopping: no new requests, finishing the running ones");
    const done = Promise.allSettled([stopPolling(), stopJobs(), stopMetrics()]);
    server.close(() => void done.finally(() => process.exit(0)));
    // A connection that its browser keeps open counts as running until it is idle and closed.
    setInterval(() => server.closeIdleConnections(), 50).unref();
    setTimeout(() => process.exit(0), 10_000).unref();
  });
}

/** HOUND_BUILD_DIR, or the folder that the last `npm run build` noted. */
function buildFolder() {
  const noted = existsSync("build/latest") ? readFileSync("build/latest", "utf8").trim() : "";
  const folder = process.env.HOUND_BUILD_DIR ?? noted;
  if (!folder || !existsSync(join(folder, "server/index.js"))) {
    log.fatal("No build found. Run: npm run build");
    process.exit(1);
  }
  return resolve(folder);
}

/** A proxy's name of the request, when it is one, else a new one; told with the answer. */
function requestId(request, response) {
  const given = request.headers["x-request-id"];
  const id = typeof given === "string" && /^[\w.-]{8,64}$/.test(given) ? given : randomUUID();
  response.setHeader("X-Request-Id", id);
  return id;
}

/** What is worth a log line of a request: never headers with cookies, never a body, never a link's token. */
function shortRequest(request) {
  // Links without sign-in carry their permission in the path: it stays out of the log.
  return { id: request.id, method: request.method, url: request.url.replace(/^\/(o|calendar)\/[^/?]+/, "/$1/…") };
}
