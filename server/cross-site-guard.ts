import type { NextFunction, Request, Response } from "express";

const SAFE = new Set(["GET", "HEAD", "OPTIONS"]);

/**
 * Refuses every changing request that another site made, on pages and resource routes alike. Browsers say where a
 * request comes from in Sec-Fetch-Site or Origin; one that says neither is refused too.
 */
export function crossSiteGuard(
  request: Pick<Request, "method" | "headers" | "protocol">,
  response: Response,
  next: NextFunction,
): void {
  if (SAFE.has(request.method) || comesFromHere(request)) next();
  else
    response
      .status(403)
      .type("text/plain")
      .send(
        "This request came from another site and was refused. Nothing was changed. Open the page here and try again.",
      );
}

export function comesFromHere(request: Pick<Request, "headers" | "protocol">): boolean {
  const { origin, host } = request.headers;
  const site = request.headers["sec-fetch-site"];
  if (site !== undefined && site !== "same-origin") return false;
  if (origin !== undefined) return origin === `${request.protocol}://${host}`;
  return site === "same-origin";
}
