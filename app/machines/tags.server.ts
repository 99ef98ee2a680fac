import { getDb } from "@db";
import PDFDocument from "pdfkit";
import QRCode from "qrcode";

import { Refusal } from "~/kit/refusal";
import { setFace } from "~/kit/server/pdf-fonts.server";

import * as sql from "./tags.sql";

export interface TaggedMachine {
  tag: string;
  name: string;
  siteName: string;
}

/** Address that a machine's tag leads to; it asks for sign-in, so the tag number itself opens nothing. */
export function tagUrl(origin: string, tag: string): string {
  return `${origin}/t/${encodeURIComponent(tag)}`;
}

export async function taggedMachine(machineId: string): Promise<TaggedMachine> {
  const [row] = await sql.taggedMachine({ machineId });
  if (!row) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  return row;
}

/** Machine of a tag as it is scanned or typed. */
export async function machineOfTag(tag: string): Promise<string | null> {
  const [row] = await getDb().models.Machine.findAll({
    attributes: ["id"],
    where: { tag: tag.trim().slice(0, 32) },
    raw: true,
  });
  return row?.id ?? null;
}

export function tagSvg(origin: string, tag: string): Promise<string> {
  return QRCode.toString(tagUrl(origin, tag), { type: "svg", errorCorrectionLevel: "M", margin: 2 });
}

export function tagPng(origin: string, tag: string): Promise<Buffer> {
  return QRCode.toBuffer(tagUrl(origin, tag), { errorCorrectionLevel: "M", margin: 2, width: 512 });
}

const MM = 72 / 25.4;
/** A4, 3 by 7 labels of 70 × 42.4 mm: a common size of label sheets without margins. */
const COLUMNS = 3;
const ROWS = 7;
const LABEL = { width: 70 * MM, height: (297 / ROWS) * MM };
const QR = 30 * MM;

/** A sheet of tags to print, one label a machine. */
export async function tagSheet(origin: string, filter: { siteId: string | null }): Promise<Buffer> {
  const machines = await sql.machinesToPrint(filter, filter);
  if (machines.length === 0) throw new Refusal(404, "no-machines", "There is no machine to print a tag for.");
  const document = new PDFDocument({ size: "A4", margin: 0, info: { Title: "Machine tags" } });
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve) =>
    document.on("data", (chunk: Buffer) => chunks.push(chunk)).on("end", () => resolve(Buffer.concat(chunks))),
  );
  for (const [i, machine] of machines.entries()) {
    const place = i % (COLUMNS * ROWS);
    if (i > 0 && place === 0) document.addPage();
    const x = (place % COLUMNS) * LABEL.width;
    const y = Math.floor(place / COLUMNS) * LABEL.height;
    drawQr(document, tagUrl(origin, machine.tag), x + 4 * MM, y + (LABEL.height - QR) / 2, QR);
    const left = x + QR + 7 * MM;
    const width = LABEL.width - QR - 9 * MM;
    const tag = setFace(document, "bold", machine.tag);
    document.fontSize(13).text(tag, left, y + 8 * MM, { width, height: 16, ellipsis: true });
    const name = setFace(document, "text", machine.name);
    document.fontSize(9).text(name, left, y + 15 * MM, { width, height: 34, ellipsis: true });
    const site = setFace(document, "text", machine.siteName);
    document.text(site, left, y + 28 * MM, { width, height: 24, ellipsis: true });
  }
  document.end();
  return done;
}

/** Drawn as squares, not as a picture: sharp at any size. */
function drawQr(document: PDFKit.PDFDocument, text: string, x: number, y: number, size: number): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: "M" });
  const step = size / modules.size;
  for (let row = 0; row < modules.size; row++) {
    for (let column = 0; column < modules.size; column++)
      if (modules.get(row, column)) document.rect(x + column * step, y + row * step, step, step);
  }
  document.fill("#000");
}

/** An operator's link as a QR code to print, in an image's address. */
export function operatorQr(url: string): Promise<string> {
  return QRCode.toDataURL(url, { errorCorrectionLevel: "M", margin: 2, width: 360 });
}
