import { PassThrough } from "node:stream";

import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, isRouteErrorResponse, type RouterContextProvider, ServerRouter } from "react-router";

import { logError } from "~/kit/server/log.server";
import { nonceContext } from "~/kit/server/request-context";

export const streamTimeout = 5000;

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  routerContext: EntryContext,
  context: RouterContextProvider,
): Promise<Response> {
  const nonce = context.get(nonceContext);
  const waitForAll = isbot(request.headers.get("user-agent")) || routerContext.isSpaMode;
  return new Promise((resolve, reject) => {
    let shellSent = false;
    const send = () => {
      shellSent = true;
      const body = new PassThrough();
      headers.set("Content-Type", "text/html; charset=utf-8");
      headers.set("Cache-Control", "no-store");
      resolve(new Response(createReadableStreamFromReadable(body), { headers, status }));
      pipe(body);
    };
    const { pipe, abort } = renderToPipeableStream(
      <ServerRouter context={routerContext} url={request.url} {...(nonce ? { nonce } : {})} />,
      {
        ...(nonce ? { nonce } : {}),
        [waitForAll ? "onAllReady" : "onShellReady"]: send,
        onShellError: reject,
        onError(error: unknown) {
          status = 500;
          if (shellSent) logError(error instanceof Error ? (error.stack ?? error.message) : String(error));
        },
      },
    );
    setTimeout(abort, streamTimeout + 1000);
  });
}

/** What went wrong unexpectedly, without the statement's data: that may hold what a person typed. */
export function handleError(error: unknown, { request }: { request: Request }): void {
  if (request.signal.aborted || (isRouteErrorResponse(error) && error.status < 500)) return;
  const { pathname } = new URL(request.url);
  logError(`${request.method} ${pathname}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
}
