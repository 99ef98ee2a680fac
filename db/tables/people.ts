import { bigWhole, day, fixedText, flag, instant, json, type RowOf, table, text, uuid, whole } from "../columns";
import type { BreakRule } from "../values";

export const persons = table("persons", {
  id: uuid().key(),
  name: text(120),
  signIn: text(120),
  passwordHash: text(255),
  role: text<"technician" | "lead">(10),
  active: flag().withDefault(true),
  mustChangePassword: flag().withDefault(false),
  /** A demo account with a published password: production refuses to run beside one. */
  demo: flag().withDefault(false),
  createdAt: instant(),
  dayFrom: text(5).withDefault("07:00"),
  dayTo: text(5).withDefault("16:00"),
  families: json<string[]>().withDefault([]),
  territory: json<string[]>().withDefault([]),
  /** In their order; none: days are planned without. */
  breaks: json<BreakRule[]>().withDefault([]),
  /** Where the digest goes, and what customers answer to. */
  email: text(160).withDefault(""),
});
export type PersonRow = RowOf<typeof persons>;

export const authorisations = table("authorisations", {
  id: uuid().key(),
  personId: uuid(),
  kind: text(60),
  expiresOn: day().orNull(),
  grantedBy: uuid(),
  grantedAt: instant(),
  revokedBy: uuid().orNull(),
  revokedAt: instant().orNull(),
});
export type AuthorisationRow = RowOf<typeof authorisations>;

export const sessions = table("sessions", {
  /** SHA-256 of the cookie's token: the table alone opens nothing. */
  id: fixedText(64).key(),
  personId: uuid(),
  device: text(200),
  createdAt: instant(),
  lastSeenAt: instant(),
  expiresAt: instant(),
  endedAt: instant().orNull(),
});
export type SessionRow = RowOf<typeof sessions>;

/** Counters of tries, kept by the rate limiter. */
export const rateLimits = table("rate_limits", {
  key: text(255).key(),
  points: whole().withDefault(0),
  expire: bigWhole().orNull(),
});
export type RateLimitRow = RowOf<typeof rateLimits>;

export const auditLog = table("audit_log", {
  id: uuid().key(),
  at: instant(),
  byPerson: uuid().orNull(),
  subject: text(40),
  subjectId: uuid(),
  action: text(60),
  details: json<Record<string, unknown>>(),
});
export type AuditRow = RowOf<typeof auditLog>;

/** What was sent by a form, by the key that came with it. */
export const submissions = table("submissions", {
  id: uuid().key(),
  personId: uuid().orNull(),
  at: instant(),
  /** Null until it is known, and where nothing but that it was done is to be kept. */
  answer: json<{ said: string | null; redirect: string | null }>().orNull(),
});
export type SubmissionRow = RowOf<typeof submissions>;
