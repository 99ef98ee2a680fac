import { findStepOf } from "@core";
import { getDb } from "@db";
import sharp from "sharp";

import type { Actor } from "~/kit/actor";
import { capital } from "~/kit/capital";
import { shortDay } from "~/kit/days/day-time";
import { dayInZone } from "~/kit/days/site-day";
import { messagesAbout, type MessageView, queueMessage } from "~/kit/messages/messages.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { causeName, findView, symptomOf } from "~/sheet/find/find-view";
import { learnedFaults } from "~/sheet/find/learned-faults.server";
import { siteTime } from "~/ui/site-time";

import { machineFacts } from "../print/machine-facts";
import { MARGIN, Page } from "../print/page.server";
import { bytesOf, drawHead, newDocument } from "../print/record-pdf.server";
import { loadRecord, type RecordView } from "../records.server";
import * as sql from "./packet.sql";
import { type Packet, packetOf } from "./packet-lines";

export interface PacketView {
  record: RecordView;
  packet: Packet;
  /** Pictures that have arrived. */
  photos: string[];
  messages: MessageView[];
}

/** So many of a machine's earlier faults go along. */
const EARLIER_FAULTS = 8;
/** So many pictures; a mail takes no more. */
const MOST_PICTURES = 6;
const PICTURE_WIDTH = 900;

/** Everything that who goes on with a fault has to know; made by itself, of an open sheet too. */
export async function servicePacket(sheetId: string, now: Date): Promise<PacketView> {
  const record = await loadRecord(sheetId, now);
  const { procedure, state, machine, timeZone, persons, steps } = record;
  const step = findStepOf(procedure);
  const at = steps.findLast((one) => one.step === step?.id);
  if (!step || !at) throw new Refusal(404, "no-fault", "Only a fault's sheet has a service packet.");
  const [learned, services, readings, messages] = await Promise.all([
    learnedFaults(procedure, machine, sheetId),
    sql.lastServices({ machineId: machine.id, sheetId }),
    sql.lastReadings({ machineId: machine.id }),
    messagesAbout({ sheetId, kind: "packet" }),
  ]);
  const causes = learned?.chances[symptomOf(step, state)?.id ?? ""];
  const view = findView(procedure, state, { ...at, definition: step }, machine.options, causes);
  const today = dayInZone(now, timeZone);
  const packet = packetOf(step, state, steps, {
    causes: view?.search.causes ?? [],
    readings: readings.map((one) => `${words(one.reading)}: ${one.value} ${one.unit}, ${shortDay(one.readOn, today)}`),
    history: {
      services: services.map((one) => `${shortDay(one.onDay, today)}: ${one.title}, ${one.byName}`),
      faults: (learned?.before ?? [])
        .slice(0, EARLIER_FAULTS)
        .map((one) => `${shortDay(one.on, today)}: ${causeName(step, one.cause)}`),
    },
    nameOf: (person, when) => `${persons[person] ?? "unknown"}, ${siteTime(when, timeZone)}`,
  });
  const photos = state.photos.map((one) => one.photo).filter((photo) => record.photos.includes(photo));
  return { record, packet, photos, messages };
}

const words = (name: string): string => capital(name.replaceAll("-", " "));

/** The packet as an A4 PDF, with the pictures. */
export async function packetPdf({ record, packet, photos }: PacketView): Promise<Buffer> {
  const { machine, sheet, letterhead } = record;
  const doc = newDocument(`Service packet: ${machine.name} ${machine.tag}`, sheet.openedAt.toISOString());
  const finished = bytesOf(doc);
  const page = new Page(doc);
  const kind = "A fault that was looked for, and what it showed";
  drawHead(page, { letterhead, title: "Service packet", kind, facts: packetFacts(record, packet) });
  for (const [title, lines] of packet.lists) page.list(title, lines);
  for (const picture of await picturesOf(photos)) {
    doc.addPage();
    doc.image(picture, MARGIN, MARGIN, { fit: [page.width, 640] });
  }
  page.footers(`Sheet ${sheet.id}`, 0);
  doc.end();
  return finished;
}

/** Machine, place and symptom. */
export function packetFacts(record: RecordView, packet: Packet): [name: string, value: string][] {
  return [
    ...machineFacts(record),
    ["The operator says", packet.symptom],
    ["Found", packet.found],
    ["For", packet.to ?? ""],
    ["They are told", packet.say ?? ""],
  ];
}

async function picturesOf(ids: readonly string[]): Promise<Buffer[]> {
  const rows = await getDb().models.Photo.findAll({
    attributes: ["bytes"],
    where: { id: ids.slice(0, MOST_PICTURES) },
    raw: true,
  });
  return Promise.all(
    rows.map((row) =>
      sharp(row.bytes).rotate().resize({ width: PICTURE_WIDTH, withoutEnlargement: true }).jpeg().toBuffer(),
    ),
  );
}

/** Sends the packet to who goes on with the fault. @returns who it goes to */
export async function sendPacket(
  actor: Actor,
  sheetId: string,
  to: { name: string; address: string },
  now: Date,
): Promise<string> {
  const view = await servicePacket(sheetId, now);
  const { machine } = view.record;
  const bytes = await packetPdf(view);
  await getDb().transact(async (tx) => {
    await queueMessage(
      {
        kind: "packet",
        to,
        subject: `Service packet: ${machine.name}, ${machine.siteName}`.slice(0, 200),
        body: [
          `Good day${to.name === "" ? "" : ` ${to.name}`},`,
          "",
          `a fault is handed over to you: ${machine.name}, ${machine.siteName}.`,
          ...packetFacts(view.record, view.packet).map(([name, value]) => (value === "" ? "" : `${name}: ${value}`)),
          "",
          "Every check with what it showed is in the file.",
          "",
          actor.name,
        ].join("\n"),
        sheetId,
        siteId: view.record.duty.siteId,
        by: actor.id,
        files: [{ name: `packet-${machine.tag}.pdf`.slice(0, 120), type: "application/pdf", bytes }],
      },
      now,
      tx,
    );
    await audit(
      { by: actor, subject: "sheet", subjectId: sheetId, action: "packet sent", details: { to: to.address }, now },
      tx,
    );
  });
  return to.name === "" ? to.address : to.name;
}
