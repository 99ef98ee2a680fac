import { isFaultProcedure } from "@core";
import { getDb } from "@db";
import sharp from "sharp";

import type { Actor } from "~/kit/actor";
import { capital } from "~/kit/capital";
import { dayInWords } from "~/kit/days/day-time";
import { messagesAbout, type MessageView, queueMessage } from "~/kit/messages/messages.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { guideOf } from "~/procedures/guides/guides.server";
import { findView } from "~/sheet/find/find-view";
import { learnedFaults } from "~/sheet/find/learned-faults.server";
import { siteTime } from "~/ui/site-time";

import { MARGIN, Page, SOFT } from "../print/page.server";
import { bytesOf, newDocument } from "../print/record-pdf.server";
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
  const at = steps.findLast((one) => one.step === "cause" && one.definition.kind === "find");
  if (!isFaultProcedure(procedure.id) || at?.definition.kind !== "find")
    throw new Refusal(404, "no-fault", "Only a fault's sheet has a service packet.");
  const step = at.definition;
  const [learned, services, readings, faults, guide, messages] = await Promise.all([
    learnedFaults(procedure, machine, sheetId),
    sql.lastServices({ machineId: machine.id, sheetId }),
    sql.lastReadings({ machineId: machine.id }),
    getDb().models.FaultOutcome.findAll({
      attributes: ["cause", "onDay", "sheetId"],
      where: { machineId: machine.id },
      order: [["foundAt", "DESC"]],
      limit: EARLIER_FAULTS,
      raw: true,
    }),
    guideOf(machine.family),
    messagesAbout({ sheetId }),
  ]);
  const causes = learned?.chances[state.steps[step.symptom]?.answer ?? ""];
  const weights = causes && Object.fromEntries(Object.entries(causes).map(([id, { weight }]) => [id, weight]));
  const view = findView(procedure, state, { ...at, definition: step }, machine.options, weights);
  const causeName = (id: string): string => guide?.causes.find((one) => one.id === id)?.name ?? "nothing found";
  const packet = packetOf(step, state, steps, {
    causes: view?.search.causes ?? [],
    readings: readings.map((one) => `${words(one.reading)}: ${one.value} ${one.unit}, ${dayInWords(one.readOn)}`),
    history: {
      services: services.map((one) => `${dayInWords(one.onDay)}: ${one.title}, ${one.byName}`),
      faults: faults
        .filter((one) => one.sheetId !== sheetId)
        .map((one) => `${dayInWords(one.onDay)}: ${causeName(one.cause)}`),
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
  if (letterhead) page.write({ face: "bold", size: 11 }, letterhead.name, { y: MARGIN, width: page.width });
  page.write({ face: "bold", size: 20 }, "Service packet", { width: page.width });
  page.write({ face: "text", size: 10, colour: SOFT }, "A fault that was looked for, and what it showed");
  page.line(doc.y + 4, 1.5);
  doc.moveDown(0.8);
  for (const [name, value] of packetFacts(record, packet)) page.fact(name, value);
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
  const { machine } = record;
  return [
    ["Machine", `${machine.name}, tag ${machine.tag}`],
    ["Maker, model, serial", [machine.maker, machine.model, machine.serial].filter(Boolean).join(", ")],
    ["Site", [machine.customerName, machine.siteName, machine.area, machine.address].filter(Boolean).join(", ")],
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
