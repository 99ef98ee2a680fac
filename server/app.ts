import { createRequestHandler } from "@react-router/express";
import express from "express";
import helmet from "helmet";
import { RouterContextProvider } from "react-router";

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

app.use((request, response, next) => {
  response.locals.nonce = production ? crypto.randomUUID().replaceAll("-", "") : undefined;
  helmet({
    // React Router checks the Origin of posted forms, which browsers leave out under helmet's default.
    referrerPolicy: { policy: "same-origin" },
    strictTransportSecurity: request.secure,
    contentSecurityPolicy: {
      directives: {
        "default-src": ["'self'"],
        // The decoder of scanned codes is WebAssembly, from this server as everything.
        "script-src": [
          "'self'",
          "'wasm-unsafe-eval'",
          production ? `'nonce-${response.locals.nonce as string}'` : "'unsafe-inline'",
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
        "upgrade-insecure-requests": request.secure ? [] : null,
      },
    },
  })(request, response, next);
});
app.use(crossSiteGuard);

app.use(
  createRequestHandler({
    build: () => import("virtual:react-router/server-build"),
    getLoadContext(request, response) {
      const context = new RouterContextProvider();
      context.set(nonceContext, response.locals.nonce as string | undefined);
      context.set(addressContext, request.ip ?? "unknown");
      return context;
    },
  }),
);
app.use(faultInWords);
