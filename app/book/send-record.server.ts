import { type Contact, getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { dayInWords } from "~/kit/days/day-time";
import { messagesAbout, type MessageView, queueMessage } from "~/kit/messages/messages.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

import { printed } from "./print/printed.server";
import { recordPdf } from "./print/record-pdf.server";
import { loadRecord, type RecordView } from "./records.server";

/** Who a record may go to, and who it went to. */
export interface RecordPost {
  contacts: Contact[];
  messages: MessageView[];
}

/** As many records go with one message; a mail server takes no more. */
const MOST_FILES = 12;

export async function recordPost(sheetId: string, siteId: string): Promise<RecordPost> {
  const [site, messages] = await Promise.all([
    getDb().models.Site.findByPk(siteId, { attributes: ["contacts"], raw: true }),
    messagesAbout({ sheetId, kind: "record" }),
  ]);
  return { contacts: (site?.contacts ?? []).filter((one) => one.email !== ""), messages };
}

/**
 * Sends a signed record to the customer, with the others that the same signature was given for.
 *
 * @returns who it goes to
 */
export async function sendRecord(
  actor: Actor,
  sheetId: string,
  to: { name: string; address: string },
  now: Date,
): Promise<string> {
  const first = await loadRecord(sheetId, now);
  if (first.sheet.status === "open")
    throw new Refusal(409, "open", "This sheet is still open. It is sent when it is signed or ended.");
  const others = first.together.slice(0, MOST_FILES - 1);
  const records = [first, ...(await Promise.all(others.map((one) => loadRecord(one.sheetId, now))))];
  const files: { name: string; type: string; bytes: Buffer }[] = [];
  // One after the other: drawing holds much in memory.
  for (const record of records)
    files.push({
      name: fileNameOf(record, files.length),
      type: "application/pdf",
      bytes: await recordPdf(printed(record)),
    });
  const { doneOn } = first.sheet;
  const about = `${first.machine.siteName}: ${records.length === 1 ? `record of ${first.machine.name}` : `${records.length} records`}${doneOn ? ` of ${dayInWords(doneOn)}` : ""}`;
  await getDb().transact(async (tx) => {
    await queueMessage(
      {
        kind: "record",
        to,
        subject: about.slice(0, 200),
        body: [
          `Good day${to.name === "" ? "" : ` ${to.name}`},`,
          "",
          "here is what was done, as it was signed:",
          ...records.map((one) => `- ${one.machine.name}: ${one.title}`),
          ...(first.together.length > others.length ? ["", "There are more: ask for them, they are in the book."] : []),
          "",
          actor.name,
        ].join("\n"),
        sheetId,
        siteId: first.duty.siteId,
        by: actor.id,
        files,
      },
      now,
      tx,
    );
    await audit(
      {
        by: actor,
        subject: "sheet",
        subjectId: sheetId,
        action: "sent",
        details: { to: to.address, records: records.length },
        now,
      },
      tx,
    );
  });
  return to.name === "" ? to.address : to.name;
}

const fileNameOf = ({ machine, sheet }: RecordView, i: number): string =>
  `record-${machine.tag}-${sheet.doneOn ?? "not-done"}${i === 0 ? "" : `-${i + 1}`}.pdf`.slice(0, 120);
