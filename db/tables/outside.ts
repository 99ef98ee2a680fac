import { day, fixedText, instant, json, type RowOf, table, text, uuid, whole } from "../columns";

export const links = table("links", {
  id: uuid().key(),
  kind: text<"operator" | "person-calendar" | "site-calendar" | "answer">(15),
  /** Machine, person, site or message. */
  subjectId: uuid(),
  /** SHA-256 of the token: the table alone opens nothing. */
  tokenHash: fixedText(64),
  madeBy: uuid(),
  madeAt: instant(),
  revokedBy: uuid().orNull(),
  revokedAt: instant().orNull(),
});
export type LinkRow = RowOf<typeof links>;

export const operatorTicks = table("operator_ticks", {
  id: uuid().key(),
  linkId: uuid(),
  machineId: uuid(),
  dutyId: uuid(),
  doneOn: day(),
  name: text(60),
  loggedAt: instant(),
});
export type OperatorTickRow = RowOf<typeof operatorTicks>;

/** How far each gateway has been read, and how it is doing. */
export const gateways = table("gateways", {
  name: text(60).key(),
  readTo: text(80).withDefault(""),
  failures: whole().withDefault(0),
  nextTryAt: instant().orNull(),
  lastOkAt: instant().orNull(),
  message: text(300).withDefault(""),
});
export type GatewayRow = RowOf<typeof gateways>;

/** Who does a job that only one process may do, and until when. */
export const leases = table("leases", {
  name: text(60).key(),
  holder: text(80),
  heldUntil: instant(),
});
export type LeaseRow = RowOf<typeof leases>;

/** See `db/turns.ts`. */
export const turns = table("turns", {
  slot: whole().key(),
  n: whole(),
});

export const parkedReadings = table("parked_readings", {
  id: uuid().key(),
  externalId: text(80),
  gatewayRef: text(120),
  /** `name` and what follows: of a sheet's value, which is of a meter or a reading. */
  payload: json<{ value: unknown; at: unknown; name?: string; meter?: boolean; unit?: string }>(),
  reason: text(300),
  parkedAt: instant(),
  /** Of a sheet's value; the external id is that of its entry. */
  machineId: uuid().orNull(),
  sheetId: uuid().orNull(),
  settledBy: uuid().orNull(),
  settledAt: instant().orNull(),
  settledAs: text<"taken" | "dropped">(7).orNull(),
});
export type ParkedReadingRow = RowOf<typeof parkedReadings>;
