import { sessionCookie, signedInContext } from "~/people/session.server";
import { findSession } from "~/people/sessions.server";

import { type MiddlewareFunction, redirect } from "../../node_modules/react-router/dist/development/index.d";
import { allowedFor } from "./access";

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
    if (isApi)
      return Response.json({ code: "sign-in", message: "Sign in again to go on. Nothing is lost." }, { status: 401 });
    const back = url.pathname.replace(/(_root)?\.data$/, "") + url.search.replace(/[?&]_routes=[^&]*/, "");
    throw redirect(back === "/" || back === "" ? "/sign-in" : `/sign-in?next=${encodeURIComponent(back)}`);
  }
  if (allowed === null) throw new Response("This page does not exist.", { status: 404 });
  if (!allowed.includes(signedIn.actor.role))
    throw new Response("This is for leads. Ask one of them to do it or to change your role.", { status: 403 });
  if (signedIn.mustChangePassword && !isApi && !url.pathname.startsWith("/password")) throw redirect("/password");
  return next();
};
