import type { Role } from "@db";
export type Allowed = "everyone" | readonly Role[];

const STAFF: readonly Role[] = ["technician", "lead"];
const LEADS: readonly Role[] = ["lead"];

/**
 * Who may call what: every page and resource route by its pattern, and what is not listed is for nobody. The root middleware
 * asks here before any loader or action runs; a test holds this list against the routes.
 */
export const ACCESS: readonly (readonly [pattern: string, allowed: Allowed])[] = [
  ["/", STAFF],
  ["/sign-in", "everyone"],
  ["/sign-out", "everyone"],
  ["/password", STAFF],
  ["/round", STAFF],
  ["/round/day", STAFF],
  ["/round/day.ics", STAFF],
  ["/round/what-helps", STAFF],
  ["/round/extras", STAFF],
  ["/round/before", STAFF],
  ["/round/evening", STAFF],
  ["/first-steps", LEADS],
  ["/round/load", STAFF],
  ["/round/load/tick", STAFF],
  ["/round/week", LEADS],
  ["/round/week/proposal", LEADS],
  ["/ways", LEADS],
  ["/ways.csv", LEADS],
  ["/duties/:dutyId", STAFF],
  ["/sheet/:sheetId", STAFF],
  ["/sheet/:sheetId/packet", STAFF],
  ["/sheet/:sheetId/packet.pdf", STAFF],
  ["/sheet/:sheetId/sign", STAFF],
  ["/duties/:dutyId/rules", LEADS],
  ["/ahead", STAFF],
  ["/ahead.csv", STAFF],
  ["/ahead/workload", STAFF],
  ["/calendars", STAFF],
  // A calendar program has no sign-in: the token in the path is the permission.
  ["/calendar/:token", "everyone"],
  ["/sites", STAFF],
  ["/sites/new", STAFF],
  ["/sites/:siteId", STAFF],
  ["/sites/:siteId/edit", LEADS],
  ["/sites/:siteId/calendar", LEADS],
  ["/machines", STAFF],
  ["/machines/new", STAFF],
  ["/machines/import.csv", STAFF],
  ["/machines/readings.csv", STAFF],
  ["/stores/import.csv", STAFF],
  ["/machines/import", LEADS],
  ["/machines/import/:importId", LEADS],
  ["/machines/export.csv", STAFF],
  ["/machines/export.json", STAFF],
  ["/machines/readings", STAFF],
  ["/machines/change", LEADS],
  ["/machines/gateway", LEADS],
  ["/find", STAFF],
  ["/machines/:machineId", STAFF],
  ["/machines/:machineId/fault", STAFF],
  ["/machines/faults", STAFF],
  ["/machines/faults/:family", STAFF],
  ["/machines/faults/:family/guide.json", STAFF],
  ["/machines/faults/:family/causes.csv", STAFF],
  ["/machines/practice", STAFF],
  ["/machines/practice/:runId", STAFF],
  ["/machines/:machineId/first-duties", STAFF],
  ["/machines/:machineId/left", STAFF],
  ["/machines/:machineId/stop-tag", STAFF],
  ["/machines/:machineId/set-up", LEADS],
  ["/machines/:machineId/take-out", LEADS],
  ["/machines/:machineId/tag.svg", STAFF],
  ["/machines/:machineId/tag.png", STAFF],
  ["/machines/:machineId/trail", STAFF],
  ["/tags.pdf", STAFF],
  ["/t/:tag", STAFF],
  // An operator has no account: the token in the path is the permission, for one machine's operator page.
  ["/o/:token", "everyone"],
  ["/answer/:token", "everyone"],
  ["/photos/:photoId", STAFF],
  ["/stores", STAFF],
  ["/stores.csv", STAFF],
  ["/stores/find", STAFF],
  ["/stores/import", LEADS],
  ["/stores/items", STAFF],
  ["/stores/items/:itemId", STAFF],
  ["/stores/items/:itemId/edit", LEADS],
  ["/stores/places", STAFF],
  ["/stores/places/:placeId", STAFF],
  ["/stores/orders", STAFF],
  ["/stores/orders/:orderId", STAFF],
  ["/stores/orders/:orderId/csv", STAFF],
  ["/stores/kits", STAFF],
  ["/stores/need", STAFF],
  ["/stores/costs", LEADS],
  ["/stores/costs.csv", LEADS],
  ["/book", STAFF],
  ["/book/records/:sheetId", STAFF],
  ["/book/records/:sheetId/pdf", STAFF],
  ["/book/bundles", STAFF],
  ["/book/bundles/:bundleId", STAFF],
  ["/book/bundles/:bundleId/:file", STAFF],
  ["/book/procedures", STAFF],
  ["/book/procedures/:procedureId", STAFF],
  ["/book/procedures/:procedureId/json", STAFF],
  ["/book/procedures/:procedureId/compare", STAFF],
  ["/book/procedures/:procedureId/paper", STAFF],
  ["/book/drafts/:draftId", STAFF],
  ["/practice/:procedureId", STAFF],
  ["/sheet/:sheetId/paper", STAFF],
  ["/book/bench", STAFF],
  ["/book/instruments", STAFF],
  ["/book/people", LEADS],
  ["/api/machines/:machineId/now", STAFF],
  ["/api/sheets/:sheetId/entries", STAFF],
  ["/api/sheets/:sheetId/elsewhere", STAFF],
  ["/api/sheets/:sheetId/photos", STAFF],
  ["/api/visit", STAFF],
  // What is no page: strangers are asked to sign in, as everywhere.
  ["/*", STAFF],
];

const BY_PATTERN = new Map(ACCESS);

/**
 * Who may call a route; null when it is listed nowhere.
 *
 * @param pattern as the router matched it, never the address: `/machines/%69mport` is another address for the same page
 */
export function allowedFor(pattern: string): Allowed | null {
  return BY_PATTERN.get(pattern) ?? null;
}
