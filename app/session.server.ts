import { createContext, createCookie, redirect, type MiddlewareFunction, type RouterContextProvider } from "react-router";
import { allowedFor } from "./access";
import type { Actor } from "./services/actor";
import { findSession, SESSION_COOKIE, type SignedIn } from "./services/sessions.server";

const signedInContext = createContext<SignedIn | null>(null);

/** Demo and tests run on plain http on loopback; everywhere else the cookie goes over TLS only. */
const secure = process.env.NODE_ENV === "production" && process.env.HOUND_DEMO !== "1" && process.env.HOUND_PLAIN_HTTP !== "1";

export const sessionCookie = createCookie(SESSION_COOKIE, { httpOnly: true, sameSite: "lax", path: "/", secure, maxAge: 18 * 3600 });

/** Finds out who is calling and asks the access list, before any loader or action. */
export const guard: MiddlewareFunction<Response> = async ({ request, context }, next) => {
  const url = new URL(request.url);
  const allowed = allowedFor(url.pathname);
  const token: unknown = await sessionCookie.parse(request.headers.get("cookie"));
  const signedIn = typeof token === "string" ? await findSession(token, new Date()) : null;
  context.set(signedInContext, signedIn);
  if (allowed === "everyone") return next();
  const isApi = url.pathname.startsWith("/api/");
  if (!signedIn) {
    if (isApi) return Response.json({ code: "sign-in", message: "Sign in again to go on. Nothing is lost." }, { status: 401 });
    const back = url.pathname.replace(/(_root)?\.data$/, "") + url.search.replace(/[?&]_routes=[^&]*/, "");
    throw redirect(back === "/" || back === "" ? "/sign-in" : `/sign-in?next=${encodeURIComponent(back)}`);
  }
  if (allowed === null) throw new Response("This page does not exist.", { status: 404 });
  if (!allowed.includes(signedIn.actor.role)) throw new Response("This is for leads. Ask one of them to do it or to change your role.", { status: 403 });
  if (signedIn.mustChangePassword && !isApi && !url.pathname.startsWith("/password")) throw redirect("/password");
  return next();
};

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
