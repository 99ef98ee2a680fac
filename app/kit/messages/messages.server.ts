import { getDb, type MessageRow, Op, type Transaction } from "@db";
import { createTransport } from "nodemailer";
import { v7 as uuidv7 } from "uuid";

import { Refusal } from "~/kit/refusal";
import { dropLease, takeLease } from "~/kit/server/leases.server";
import { logError } from "~/kit/server/log.server";

export interface NewMessage {
  kind: MessageRow["kind"];
  /** Of messages with the same key there is one. */
  onceKey?: string;
  to: { name: string; address: string };
  subject: string;
  body: string;
  siteId?: string;
  sheetId?: string;
  onDay?: string;
  /** Null: the app by itself. */
  by: string | null;
  files?: { name: string; type: string; bytes: Buffer }[];
}

/** What a mail server came to with a message. */
export interface Outgoing {
  id: string;
  to: { name: string; address: string };
  subject: string;
  text: string;
  files: { filename: string; contentType: string; content: Buffer }[];
}
/** Sends one message. @throws with `responseCode` from 500 on when it is refused for good */
export type Post = (message: Outgoing) => Promise<void>;

const LEASE = "messages";
const LEASE_MS = 60_000;
/** Tried again after so many minutes, then given up. */
const AGAIN_MINUTES = [1, 2, 5, 15, 60, 240];
const AT_ONCE = 20;
const PATIENCE_MS = 15_000;
const MOST_SHOWN = 100;
const NOT_CONNECTED = "No mail server is connected. Tell the customer yourself, or copy the text.";

/** The mail server's address comes from the configuration alone: `smtp://host:port`. */
const smtpUrl = (): string | null => process.env.SMTP_URL ?? null;
const from = (): string => process.env.MAIL_FROM ?? "Humble Hound <service@localhost>";

/**
 * Keeps a message to be sent; it goes out with the transaction that it belongs to, or not at all.
 *
 * @returns its id; null when one of the same key is kept already
 */
export async function queueMessage(message: NewMessage, now: Date, tx: Transaction): Promise<string | null> {
  const { models } = getDb();
  const { onceKey = null } = message;
  if (
    onceKey !== null &&
    (await models.Message.findOne({ attributes: ["id"], where: { onceKey }, raw: true, transaction: tx }))
  )
    return null;
  const id = uuidv7();
  await models.Message.create(
    {
      id,
      kind: message.kind,
      onceKey,
      toName: message.to.name,
      toAddress: message.to.address,
      subject: message.subject,
      body: message.body,
      siteId: message.siteId ?? null,
      sheetId: message.sheetId ?? null,
      onDay: message.onDay ?? null,
      madeBy: message.by,
      madeAt: now,
      state: "waiting",
      nextTryAt: now,
      fault: smtpUrl() === null ? NOT_CONNECTED : "",
    },
    { transaction: tx },
  );
  for (const { name, type, bytes } of message.files ?? [])
    await models.MessageFile.create({ messageId: id, name, type, bytes }, { transaction: tx });
  return id;
}

/**
 * Sends what waits, in one process of all at a time. What a mail server refuses for good is given up and says why; what fails
 * otherwise is tried again later. A connection that breaks after the last word may send a message twice, under one id.
 *
 * @returns messages that were sent
 */
export async function sendMessages(
  holder: string,
  now: Date,
  { post = smtp(), stopping = () => false }: { post?: Post | null; stopping?: () => boolean } = {},
): Promise<number> {
  if (post === null) return 0;
  const due = { state: "waiting", nextTryAt: { [Op.lte]: now } } as const;
  const { models } = getDb();
  const waiting = await models.Message.findAll({
    attributes: ["id"],
    where: due,
    order: ["nextTryAt", "id"],
    limit: AT_ONCE,
    raw: true,
  });
  if (waiting.length === 0) return 0;
  let sent = 0;
  try {
    for (const { id } of waiting) {
      if (stopping() || !(await takeLease(LEASE, holder, LEASE_MS, new Date()))) return sent;
      // Another process may have had it since.
      const row = await models.Message.findOne({ where: { id, ...due }, raw: true });
      if (row && (await tryToSend(row, post, now))) sent++;
    }
  } finally {
    await dropLease(LEASE, holder).catch(() => undefined);
  }
  return sent;
}

async function tryToSend(row: MessageRow, post: Post, now: Date): Promise<boolean> {
  const { models } = getDb();
  const where = { id: row.id };
  const files = await models.MessageFile.findAll({ where: { messageId: row.id }, raw: true });
  try {
    await post({
      id: row.id,
      to: { name: row.toName, address: row.toAddress },
      subject: row.subject,
      text: row.body,
      files: files.map(({ name, type, bytes }) => ({ filename: name, contentType: type, content: bytes })),
    });
    await models.Message.update(
      { state: "sent", sentAt: now, nextTryAt: null, fault: "", tries: row.tries + 1 },
      { where },
    );
    return true;
  } catch (error) {
    const { message, responseCode = 0 } = error as Error & { responseCode?: number };
    logError(`Message ${row.id}: ${message}`);
    const again = AGAIN_MINUTES[row.tries];
    const givenUp = responseCode >= 500 || again === undefined;
    await models.Message.update(
      {
        tries: row.tries + 1,
        fault: (responseCode >= 500
          ? `The mail server refuses it: ${message}`
          : "The mail server could not be reached, or broke off."
        ).slice(0, 500),
        ...(givenUp
          ? { state: "failed" as const, nextTryAt: null }
          : { nextTryAt: new Date(now.getTime() + again * 60_000) }),
      },
      { where },
    );
    return false;
  }
}

/** What a message is about, as a page knows it. */
type About =
  | { sheetId: string; kind: MessageRow["kind"] }
  | { kind: MessageRow["kind"]; onDay: string; siteId: string[] };

/**
 * Lets a message be tried again at once.
 *
 * @param about what it has to be about: nobody sends another page's
 * @throws Refusal 404 when there is none, or it was sent
 */
export async function sendAgain(id: string, about: About, now: Date): Promise<void> {
  const [changed] = await getDb().models.Message.update(
    { state: "waiting", tries: 0, nextTryAt: now },
    { where: { id, ...about, state: { [Op.ne]: "sent" } } },
  );
  if (changed === 0)
    throw new Refusal(404, "no-such-message", "This message has been sent meanwhile, or is not here any more.");
}

/** The mail server of the configuration; null when there is none. */
function smtp(): Post | null {
  const url = smtpUrl();
  if (url === null) return null;
  return async ({ id, to, subject, text, files }) => {
    const transport = createTransport({
      url,
      connectionTimeout: PATIENCE_MS,
      greetingTimeout: PATIENCE_MS,
      socketTimeout: PATIENCE_MS,
      // What is written comes from forms: nothing in it names a file or an address to be read.
      disableFileAccess: true,
      disableUrlAccess: true,
    });
    try {
      await transport.sendMail({
        from: from(),
        to,
        subject,
        text,
        attachments: files,
        messageId: `<${id}@humble-hound>`,
      });
    } finally {
      transport.close();
    }
  };
}

export type MessageView = Pick<
  MessageRow,
  "id" | "siteId" | "toName" | "toAddress" | "state" | "fault" | "madeAt" | "sentAt" | "subject" | "body"
>;

const SHOWN = ["id", "siteId", "toName", "toAddress", "state", "fault", "madeAt", "sentAt", "subject", "body"] as const;

/** Messages about sites on a day, or of a kind about a sheet, the newest first. */
export function messagesAbout(
  where: { siteId: string[]; onDay: string } | { sheetId: string; kind: MessageRow["kind"] },
): Promise<MessageView[]> {
  return getDb().models.Message.findAll({
    attributes: [...SHOWN],
    where,
    order: [
      ["madeAt", "DESC"],
      ["id", "DESC"],
    ],
    limit: MOST_SHOWN,
    raw: true,
  });
}
