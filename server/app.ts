import { createRequestHandler } from "@react-router/express";
import express from "express";
import helmet from "helmet";
import { RouterContextProvider } from "react-router";
// As a whole and not as something to fetch: else every request would sort all routes anew, a sixth of a process's work.
import * as build from "virtual:react-router/server-build";

import { addressContext, nonceContext } from "~/kit/server/request-context";

import { crossSiteGuard } from "./cross-site-guard";
import { health, ready } from "./health";
import { countRequest } from "./metrics";
import { faultInWords, keptByNobody, understoodOnly } from "./requests";

export { endWhenUnreadyForLong } from "./health";
export { startGatewayPolling } from "./gateway-polling";
export { startJobs } from "./job-runner";
export { startMetrics, watchProcess } from "./metrics";
export { reasonsNotToStart } from "./refuse-unsafe-start";

/** The app without its process: headers, health, refusal of foreign posts, then React Router. */
export const app = express();

app.disable("x-powered-by");
// Behind a proxy that ends TLS, its word on protocol and address counts.
if (process.env.TRUST_PROXY) app.set("trust proxy", Number(process.env.TRUST_PROXY));

const production = process.env.NODE_ENV === "production";

// Every answer tells the time, by which devices put theirs right. Tests that move a device's clock on do without.
const saysTime = process.env.HOUND_SAY_TIME !== "0";
app.use((_request, response, next) => {
  if (saysTime) response.set("X-Server-Time", String(Date.now()));
  next();
});

app.get("/healthz", health);
app.get("/readyz", ready);

app.use(countRequest);

app.use(understoodOnly);
app.use(keptByNobody);

/** Headers for the browser: by TLS, or by a plain address. */
const headersOver = (tls: boolean) =>
  helmet({
    // React Router checks the Origin of posted forms, which browsers leave out under helmet's default.
    referrerPolicy: { policy: "same-origin" },
    strictTransportSecurity: tls,
    contentSecurityPolicy: {
      directives: {
        "default-src": ["'self'"],
        // The decoder of scanned codes is WebAssembly, from this server as everything.
        "script-src": [
          "'self'",
          "'wasm-unsafe-eval'",
          (_request, response) =>
            production ? `'nonce-${(response as express.Response).locals.nonce as string}'` : "'unsafe-inline'",
        ],
        "style-src": ["'self'", "'unsafe-inline'"],
        "img-src": ["'self'", "data:", "blob:"],
        "font-src": ["'self'"],
        "worker-src": ["'self'"],
        "connect-src": ["'self'", ...(production ? [] : ["ws:"])],
        "object-src": ["'none'"],
        "frame-ancestors": ["'none'"],
        "form-action": ["'self'"],
        "base-uri": ["'self'"],
        "upgrade-insecure-requests": tls ? [] : null,
      },
    },
  });
const [headersOfTls, headersOfPlain] = [headersOver(true), headersOver(false)];
app.use((request, response, next) => {
  response.locals.nonce = production ? crypto.randomUUID().replaceAll("-", "") : undefined;
  (request.secure ? headersOfTls : headersOfPlain)(request, response, next);
});
app.use(crossSiteGuard);

app.use(
  createRequestHandler({
    build,
    getLoadContext(request, response) {
      const context = new RouterContextProvider();
      context.set(nonceContext, response.locals.nonce as string | undefined);
      context.set(addressContext, request.ip ?? "unknown");
      return context;
    },
  }),
);
app.use(faultInWords);
