import PDFDocument from "pdfkit";

import { INK, MARGIN, Page, SOFT } from "./page.server";
import type { PrintedRecord } from "./printed-record";

/** A record as an A4 PDF with selectable text, page numbers and the signatures. */
export async function recordPdf(record: PrintedRecord): Promise<Buffer> {
  const doc = newDocument(record.name, record.closedAt);
  const finished = bytesOf(doc);
  drawRecord(doc, record);
  doc.end();
  return finished;
}

export function newDocument(title: string, madeAt: string): PDFKit.PDFDocument {
  return new PDFDocument({
    size: "A4",
    margin: MARGIN,
    bufferPages: true,
    tagged: true,
    lang: "en",
    info: { Title: title, Author: "Humble Hound", CreationDate: new Date(madeAt) },
  });
}

/** What a document comes to, once it is ended. */
export async function bytesOf(doc: PDFKit.PDFDocument): Promise<Buffer> {
  const chunks: Buffer[] = [];
  doc.on("data", (chunk: Buffer) => chunks.push(chunk));
  await new Promise<void>((resolve) => doc.on("end", resolve));
  return Buffer.concat(chunks);
}

/** Draws a record from the top of the document's last page on. */
export function drawRecord(doc: PDFKit.PDFDocument, record: PrintedRecord): void {
  const first = doc.bufferedPageRange().count - 1;
  const page = new Page(doc);
  drawHead(page, record);
  for (const [head, lines] of record.exceptions) page.list(head, lines);
  page.heading("Steps");
  for (const columns of record.steps) page.row(columns);
  for (const [head, lines] of record.lists) page.list(head, lines);
  drawSignatures(page, record.signatures);
  doc.moveDown(1);
  for (const words of record.vouched)
    page.write({ face: "figures", size: 7.5, colour: SOFT }, words, { width: page.width });
  if (page.unprinted > 0)
    page.write(
      { face: "text", size: 8.5, colour: SOFT },
      `□ stands for ${page.unprinted} ${page.unprinted === 1 ? "sign" : "signs"} of a script that this print has no letters for. The record's own page shows them.`,
      { width: page.width },
    );
  page.footers(record.footer, first);
}

/** Letterhead, title, and the facts below them. */
export function drawHead(
  page: Page,
  { letterhead, title, kind, facts }: Pick<PrintedRecord, "letterhead" | "title" | "kind" | "facts">,
): void {
  if (letterhead) {
    page.write({ face: "bold", size: 11 }, letterhead.name, { y: MARGIN, width: page.width });
    if (letterhead.lines)
      page.write({ face: "text", size: 8.5, colour: SOFT }, letterhead.lines, { width: page.width });
    page.doc.moveDown(0.8);
  }
  page.write({ face: "bold", size: 20 }, title, { y: letterhead ? page.doc.y : MARGIN, width: page.width });
  page.write({ face: "text", size: 10, colour: SOFT }, kind);
  page.line(page.doc.y + 4, 1.5);
  page.doc.moveDown(0.8);
  for (const [name, value] of facts) page.fact(name, value);
}

function drawSignatures(page: Page, { drawing, customer, technician }: PrintedRecord["signatures"]): void {
  const { doc, width } = page;
  page.keepFree(210);
  page.heading("Signatures");
  const top = doc.y + 4;
  const half = width / 2 - 10;
  const right = MARGIN + half + 20;
  if (drawing !== null)
    doc
      .save()
      .translate(MARGIN, top)
      .scale(half / 560)
      .path(drawing)
      .lineWidth(3)
      .lineCap("round")
      .stroke(INK)
      .restore();
  const lineY = top + 85;
  page.line(lineY, 0.7, INK, MARGIN, MARGIN + half);
  page.line(lineY, 0.7, INK, right, MARGIN + width);
  const words = { face: "text", size: 10 } as const;
  page.write(words, customer, { y: lineY + 4, width: half });
  page.write(words, technician, { x: right, y: lineY + 4, width: half });
}
