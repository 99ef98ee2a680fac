import { bytes, day, instant, longText, type RowOf, table, text, uuid, whole } from "../columns";

/** What goes to a customer or to the firm's own people; kept before it is sent. */
export const messages = table("messages", {
  id: uuid().key(),
  kind: text<"before" | "record" | "digest" | "packet">(12),
  /** At most one of this kind. */
  onceKey: text(120).orNull(),
  toName: text(120),
  toAddress: text(160),
  subject: text(200),
  body: longText(),
  siteId: uuid().orNull(),
  sheetId: uuid().orNull(),
  onDay: day().orNull(),
  /** Null: nobody, the app by itself. */
  madeBy: uuid().orNull(),
  madeAt: instant(),
  state: text<"waiting" | "sent" | "failed">(8),
  tries: whole().withDefault(0),
  nextTryAt: instant().orNull(),
  fault: text(500).withDefault(""),
  sentAt: instant().orNull(),
});
export type MessageRow = RowOf<typeof messages>;

export const messageFiles = table("message_files", {
  messageId: uuid().key(),
  name: text(120).key(),
  type: text(80),
  bytes: bytes(),
});

/** What a customer was asked to do on a machine before somebody comes; counted on only when they said yes. */
export const customerRequests = table("customer_requests", {
  id: uuid().key(),
  /** The message that asked last. */
  messageId: uuid(),
  /** Whose day it is for. */
  personId: uuid(),
  siteId: uuid(),
  machineId: uuid(),
  onDay: day(),
  /** `cool`, `free`, or procedure and step. */
  ask: text(160),
  words: text(300),
  /** Minute of the day by which it has to be done. */
  byMinute: whole(),
  /** Minutes that it saves by itself. */
  saves: whole(),
  answer: text<"yes" | "no">(3).orNull(),
  answeredAt: instant().orNull(),
  answeredBy: text(120).withDefault(""),
});
export type CustomerRequestRow = RowOf<typeof customerRequests>;
