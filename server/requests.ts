import type { NextFunction, Request, Response } from "express";

/** What pages and programs of this app ask with. */
const METHODS = new Set(["GET", "HEAD", "POST", "OPTIONS"]);
const HOST = /^([a-z0-9_-]+(\.[a-z0-9_-]+)*\.?|\[[0-9a-f:.]+\])(:\d{1,5})?$/i;

/**
 * Refuses what no browser sends, before it is taken apart: hosts that are no names, addresses that do not begin at this
 * server, methods that nothing here answers to.
 */
export function understoodOnly(
  request: Pick<Request, "method" | "headers" | "url">,
  response: Response,
  next: NextFunction,
): void {
  const refuse = (status: number, words: string): void => {
    response.status(status).type("text/plain").send(words);
  };
  if (!METHODS.has(request.method)) {
    response.set("Allow", [...METHODS].join(", "));
    refuse(405, "Nothing here is asked for in this way.");
  } else if (!HOST.test(request.headers.host ?? "")) refuse(400, "This address is not understood.");
  else if (!isAddress(request.url)) refuse(400, "This address is not understood.");
  else next();
}

/** Begins at this server and is nothing else's: two slashes name another. */
function isAddress(url: string): boolean {
  if (!/^\/(?![/\\])/.test(url)) return false;
  try {
    decodeURIComponent(url.split("?", 1)[0] ?? "");
    return URL.canParse(url, "http://here");
  } catch {
    return false;
  }
}

/**
 * What somebody was shown is kept by no browser and no proxy, unless the answer says otherwise itself. What a browser fetches
 * before its person presses is kept for that one press.
 */
export function keptByNobody(request: Request, response: Response, next: NextFunction): void {
  const ahead = /prefetch/.test(String(request.headers["sec-purpose"] ?? request.headers.purpose ?? ""));
  const writeHead = response.writeHead.bind(response) as (...all: unknown[]) => Response;
  response.writeHead = ((...all: unknown[]) => {
    if (!response.headersSent && !response.hasHeader("Cache-Control")) {
      response.setHeader("Cache-Control", ahead ? "private, max-age=10" : "no-store");
      response.vary("Cookie");
    }
    return writeHead(...all);
  }) as typeof response.writeHead;
  next();
}

/** The last to hear of a fault: says so in words, and nothing of where in the code it was. */
export function faultInWords(_error: unknown, _request: Request, response: Response, next: NextFunction): void {
  if (response.headersSent) {
    next();
    return;
  }
  response.status(500).type("text/plain").send("Something went wrong here. Try again; if it stays, tell your lead.");
}
