import { createContext, createCookie, type RouterContextProvider } from "react-router";

import type { Actor } from "~/kit/actor";

import { SESSION_COOKIE, type SignedIn } from "./sessions.server";

export const signedInContext = createContext<SignedIn | null>(null);

/** Demo and tests run on plain http on loopback; everywhere else the cookie goes over TLS only. */
const secure =
  process.env.NODE_ENV === "production" && process.env.HOUND_DEMO !== "1" && process.env.HOUND_PLAIN_HTTP !== "1";

export const sessionCookie = createCookie(SESSION_COOKIE, {
  httpOnly: true,
  sameSite: "lax",
  path: "/",
  secure,
  maxAge: 18 * 3600,
});

/** The caller, or null before signing in. */
export function whoIs(context: Readonly<RouterContextProvider>): SignedIn | null {
  return context.get(signedInContext);
}

/** The signed-in person. The guard has let the request through, so there is one. */
export function actorOf(context: Readonly<RouterContextProvider>): Actor {
  const signedIn = context.get(signedInContext);
  if (!signedIn) throw new Response("Sign in first.", { status: 401 });
  return signedIn.actor;
}

/** The session that the request came with. */
export function sessionOf(context: Readonly<RouterContextProvider>): string {
  const signedIn = context.get(signedInContext);
  if (!signedIn) throw new Response("Sign in first.", { status: 401 });
  return signedIn.sessionId;
}
