import { type MiddlewareFunction, redirect } from "react-router";

import { databaseRefusal } from "~/kit/server/database-refusal.server";
import { actorContext } from "~/kit/server/request-context";
import { sessionCookie, signedInContext } from "~/people/session.server";
import { findSession } from "~/people/sessions.server";

import { allowedFor } from "./access";

/** Most a part of an address can be: an id, a key of 80 signs, a token. */
const PLAIN = /^[\x21-\x7e]{1,200}$/;

/** Finds out who is calling and asks the access list, before any loader or action. */
export const guard: MiddlewareFunction<Response> = async ({ request, context, params, pattern }, next) => {
  // Ids and keys are plain ASCII: what is not cannot name anything.
  if (Object.values(params).some((part) => part !== undefined && !PLAIN.test(part)))
    throw new Response("This page does not exist.", { status: 404 });
  const url = new URL(request.url);
  const route = `/${pattern.replace(/^\//, "")}`;
  const allowed = allowedFor(route);
  const token: unknown = await sessionCookie.parse(request.headers.get("cookie"));
  let signedIn: Awaited<ReturnType<typeof findSession>>;
  try {
    signedIn = typeof token === "string" ? await findSession(token, new Date()) : null;
  } catch (error) {
    const refusal = databaseRefusal(error);
    if (!refusal) throw error;
    const away = new Response(refusal.message, { status: refusal.status, headers: { "Retry-After": "5" } });
    // What a page asked for waits for another try; who opens a page is told on one.
    if (url.pathname.endsWith(".data") || route.startsWith("/api/")) return away;
    throw away;
  }
  context.set(signedInContext, signedIn);
  context.set(actorContext, signedIn?.actor ?? null);
  if (allowed === "everyone") return next();
  const isApi = route.startsWith("/api/");
  if (!signedIn) {
    if (isApi)
      return Response.json({ code: "sign-in", message: "Sign in again to go on. Nothing is lost." }, { status: 401 });
    const back = url.pathname.replace(/(_root)?\.data$/, "") + url.search.replace(/[?&]_routes=[^&]*/, "");
    throw redirect(back === "/" || back === "" ? "/sign-in" : `/sign-in?next=${encodeURIComponent(back)}`);
  }
  if (allowed === null) throw new Response("This page does not exist.", { status: 404 });
  if (!allowed.includes(signedIn.actor.role))
    throw new Response("This is for leads. Ask one of them to do it or to change your role.", { status: 403 });
  if (signedIn.mustChangePassword && route !== "/password") {
    if (isApi)
      return Response.json(
        { code: "sign-in", message: "Choose a password of your own first. Nothing is lost." },
        { status: 401 },
      );
    throw redirect("/password");
  }
  return next();
};
