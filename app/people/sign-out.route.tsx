import { redirect } from "react-router";

import type { Route } from "./+types/sign-out.route";
import { sessionCookie, whoIs } from "./session.server";
import { endSession } from "./sessions.server";

export function loader() {
  return redirect("/round");
}

export async function action({ context }: Route.ActionArgs) {
  const signedIn = whoIs(context);
  if (signedIn) await endSession(signedIn.sessionId, new Date());
  return redirect("/sign-in", { headers: { "Set-Cookie": await sessionCookie.serialize("", { maxAge: 0 }) } });
}
