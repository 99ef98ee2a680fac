import { matchPath } from "react-router";
import type { Role } from "@db";

export type Allowed = "everyone" | readonly Role[];

const STAFF: readonly Role[] = ["technician", "lead"];
const LEADS: readonly Role[] = ["lead"];

/**
 * Who may call what: every page and resource route, the first match counts, and what is not listed is for nobody. The
 * root middleware asks here before any loader or action runs; a test holds this list against the routes.
 */
export const ACCESS: readonly (readonly [pattern: string, allowed: Allowed])[] = [
  ["/", STAFF],
  ["/sign-in", "everyone"],
  ["/sign-out", "everyone"],
  ["/password", STAFF],
  ["/round", STAFF],
  ["/duties/:planId", STAFF],
  ["/sheet/:runId", STAFF],
  ["/sheet/:runId/sign", STAFF],
  ["/duties/:planId/rules", LEADS],
  ["/ahead", STAFF],
  ["/ahead.csv", STAFF],
  ["/ahead/workload", STAFF],
  ["/calendars", STAFF],
  // A calendar program has no sign-in: the token in the path is the permission.
  ["/calendar/:token", "everyone"],
  ["/sites", STAFF],
  ["/sites/:siteId", STAFF],
  ["/sites/:siteId/edit", LEADS],
  ["/sites/:siteId/calendar", LEADS],
  ["/machines", STAFF],
  ["/machines/import", LEADS],
  ["/machines/import/:importId", LEADS],
  ["/machines/export.csv", STAFF],
  ["/machines/:machineId", STAFF],
  ["/stores", STAFF],
  ["/book", STAFF],
  ["/book/records/:runId", STAFF],
  ["/book/records/:runId/pdf", STAFF],
  ["/book/procedures", STAFF],
  ["/book/procedures/:procedureId", STAFF],
  ["/book/people", LEADS],
  ["/api/runs/:runId/events", STAFF],
];

/** Who may call a path; null when it is listed nowhere. */
export function allowedFor(pathname: string): Allowed | null {
  const path = pathname === "/_root.data" ? "/" : pathname.replace(/\.data$/, "").replace(/(.)\/$/, "$1");
  return ACCESS.find(([pattern]) => matchPath({ path: pattern, end: true }, path))?.[1] ?? null;
}
