import { limitWords, sumMaterials } from "@core";
import PDFDocument from "pdfkit";

import { outcomeName } from "~/kit/outcomes";
import { setFace, type Typeface, UNKNOWN } from "~/kit/server/pdf-fonts.server";
import { materialName, partName } from "~/sheet/item-names";
import { outcomeOf } from "~/sheet/step-outcome";
import { siteTime } from "~/ui/site-time";

import { askedWords } from "./asked-words";
import { looseEnds } from "./loose-ends";
import type { RecordView } from "./records.server";
import { timeOnSiteWords } from "./time-on-site";

const MARGIN = 50;
const INK = "#17191c";
const SOFT = "#495059";

/** A record as an A4 PDF with selectable text, page numbers and the signatures. */
export async function recordPdf(record: RecordView): Promise<Buffer> {
  const { sheet, title, procedure, machine } = record;
  const doc = new PDFDocument({
    size: "A4",
    margin: MARGIN,
    bufferPages: true,
    tagged: true,
    lang: "en",
    info: {
      Title: `${title}: ${machine.name} ${machine.tag}`,
      Author: "Humble Hound",
      CreationDate: sheet.closedAt ?? sheet.openedAt,
    },
  });
  const chunks: Buffer[] = [];
  doc.on("data", (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((resolve) => doc.on("end", resolve));
  const page = new Page(doc);
  writeHead(page, record);
  for (const [head, lines] of exceptionsOf(record)) page.list(head, lines);
  page.heading("Steps");
  for (const one of record.steps) page.row(stepColumns(record, one));
  for (const [head, lines] of listsOf(record)) page.list(head, lines);
  writeSignatures(page, record);
  writeVouched(page, record);
  if (page.unprinted > 0)
    page.write(
      { face: "text", size: 8.5, colour: SOFT },
      `□ stands for ${page.unprinted} ${page.unprinted === 1 ? "sign" : "signs"} of a script that this print has no letters for. The record's own page shows them.`,
      { width: page.width },
    );
  page.footers(`Sheet ${sheet.id} · ${procedure.id} v${procedure.version}`);
  doc.end();
  await finished;
  return Buffer.concat(chunks);
}

/** What is drawn again and again, from the top of the page down. */
class Page {
  readonly doc: PDFKit.PDFDocument;
  readonly width: number;
  /** Letters that no typeface has, each a box. */
  unprinted = 0;

  constructor(doc: PDFKit.PDFDocument) {
    this.doc = doc;
    this.width = doc.page.width - 2 * MARGIN;
  }

  /** Words where the last ended, or at a place. */
  write(
    look: { face: Typeface; size: number; colour?: string },
    words: string,
    { x = MARGIN, y = this.doc.y, ...options }: PDFKit.Mixins.TextOptions & { x?: number; y?: number } = {},
  ): void {
    const { doc } = this;
    const printed = setFace(doc, look.face, words);
    this.#count(words, printed);
    doc
      .fontSize(look.size)
      .fillColor(look.colour ?? INK)
      .text(printed, x, y, options);
  }

  line(y: number, weight: number, colour = INK, from = MARGIN, to = MARGIN + this.width): void {
    this.doc.moveTo(from, y).lineTo(to, y).lineWidth(weight).stroke(colour);
  }

  /** Begins a page where less than this is left. */
  keepFree(points: number): void {
    if (this.doc.y > this.doc.page.height - points) this.doc.addPage();
  }

  heading(words: string): void {
    this.keepFree(140);
    this.doc.moveDown(0.8);
    this.write({ face: "bold", size: 13 }, words);
    this.doc.moveDown(0.2);
  }

  fact(name: string, value: string): void {
    if (value === "") return;
    this.write({ face: "bold", size: 10 }, `${name}: `, { continued: true, width: this.width });
    const printed = setFace(this.doc, "text", value);
    this.#count(value, printed);
    this.doc.text(printed);
  }

  #count(words: string, printed: string): void {
    if (printed.includes(UNKNOWN)) this.unprinted += printed.split(UNKNOWN).length - words.split(UNKNOWN).length;
  }

  list(title: string, lines: readonly string[]): void {
    if (lines.length === 0) return;
    this.heading(title);
    for (const line of lines) this.write({ face: "text", size: 10 }, `– ${line}`, { width: this.width });
  }

  /** A step in three columns: its title, what it came to, who and when. */
  row([title, result, by]: readonly [string, string, string]): void {
    const { doc, width } = this;
    const [first, second, third] = [width * 0.4, width * 0.36, width * 0.24];
    const tall = (face: Typeface, size: number, words: string, wide: number): number => {
      const printed = setFace(doc, face, words || " ");
      return doc.fontSize(size).heightOfString(printed, { width: wide });
    };
    const height =
      Math.max(
        tall("text", 9.5, title, first - 8),
        tall("text", 9.5, result, second - 8),
        tall("figures", 8, by, third),
      ) + 6;
    this.keepFree(height + MARGIN + 20);
    const top = doc.y;
    const words = { face: "text", size: 9.5 } as const;
    this.write(words, title, { y: top + 2, width: first - 8 });
    this.write(words, result, { x: MARGIN + first, y: top + 2, width: second - 8 });
    this.write({ face: "figures", size: 8, colour: SOFT }, by, {
      x: MARGIN + first + second,
      y: top + 2,
      width: third,
    });
    this.line(top + height, 0.4, SOFT);
    doc.y = top + height;
  }

  footers(words: string): void {
    const { doc, width } = this;
    const { count } = doc.bufferedPageRange();
    for (let page = 0; page < count; page++) {
      doc.switchToPage(page);
      // Text below the margin would otherwise start a page of its own.
      doc.page.margins.bottom = 0;
      this.write({ face: "figures", size: 7.5, colour: SOFT }, `${words} · page ${page + 1} of ${count}`, {
        y: doc.page.height - 32,
        width,
        align: "center",
        lineBreak: false,
      });
    }
  }
}

const nameOf = ({ persons }: RecordView, id: string | null): string => persons[id ?? ""] ?? "unknown";

function writeHead(page: Page, record: RecordView): void {
  const { sheet, title, machine, state, timeZone, next } = record;
  const { outcome } = state;
  if (record.letterhead) {
    const { name, lines } = record.letterhead;
    page.write({ face: "bold", size: 11 }, name, { y: MARGIN, width: page.width });
    if (lines) page.write({ face: "text", size: 8.5, colour: SOFT }, lines, { width: page.width });
    page.doc.moveDown(0.8);
  }
  page.write({ face: "bold", size: 20 }, title, { y: record.letterhead ? page.doc.y : MARGIN, width: page.width });
  page.write(
    { face: "text", size: 10, colour: SOFT },
    outcome ? `Visit record: ${outcomeName(outcome.outcome)}, work not done` : "Service record",
  );
  page.line(page.doc.y + 4, 1.5);
  page.doc.moveDown(0.8);
  page.fact("Machine", `${machine.name}, tag ${machine.tag}`);
  page.fact("Maker, model, serial", [machine.maker, machine.model, machine.serial].filter(Boolean).join(", "));
  page.fact("Site", [machine.customerName, machine.siteName, machine.area, machine.address].filter(Boolean).join(", "));
  page.fact("Started", state.startedAt ? `${siteTime(state.startedAt, timeZone)} (${timeZone})` : "");
  page.fact(
    outcome ? "Ended" : "Signed",
    sheet.closedAt ? `${siteTime(sheet.closedAt, timeZone)} by ${nameOf(record, sheet.closedBy)}` : "",
  );
  page.fact("Time", timeOnSiteWords(record.onSite, timeZone) ?? "");
  page.fact("Reason", outcome?.reason ?? "");
  page.fact("Signed with steps missing", state.technicianSignature?.missingReason ?? "");
  if (next) page.fact(outcome ? "Still due" : "Next due", next.row.dueOn ?? "no day yet");
}

function stepColumns(record: RecordView, one: RecordView["steps"][number]): [string, string, string] {
  const { definition, state } = one;
  const limits =
    definition.kind === "measure" && definition.limits
      ? ` (allowed ${limitWords(definition.limits, definition.unit)})`
      : "";
  const readings = state?.readings ?? [];
  const used = [...new Set(readings.flatMap((reading) => reading.instrument ?? []))].map((id) => {
    const expired = readings.some((reading) => reading.instrument === id && reading.instrumentExpired);
    return `\nwith ${record.instruments[id] ?? "an unregistered instrument"}${expired ? ", calibration expired" : ""}`;
  });
  const asked = askedWords(one).map((words) => `\n${words}`);
  return [
    `${definition.title}${one.round > 1 ? ` (pass ${one.round})` : ""}`,
    `${outcomeOf(one) || (one.settled ? "done" : "not settled")}${limits}${used.join("")}${asked.join("")}`,
    state?.by && state.at ? `${nameOf(record, state.by)}\n${siteTime(state.at, record.timeZone)}` : "",
  ];
}

/** What is not as it should be, before everything else, a line each. */
function exceptionsOf(record: RecordView): [title: string, lines: string[]][] {
  const { state, timeZone } = record;
  return [
    [
      "Findings and notes",
      [...state.findings, ...state.notes].map((one) => `${one.severity ? `${one.severity}: ` : ""}${one.text}`),
    ],
    ["Done as it must not be", record.unsafe],
    [
      "Left open",
      record.leftOpen.map(
        (one) => `${one.title}${one.settledAt ? ` (settled ${siteTime(one.settledAt.toISOString(), timeZone)})` : ""}`,
      ),
    ],
    ["Settled of what was left before", record.settled.map((one) => one.title)],
  ];
}

/** What was fitted, used and corrected, a line each. */
function listsOf(record: RecordView): [title: string, lines: string[]][] {
  const { procedure, state, timeZone } = record;
  const lot = (one: { lot?: string | null }): string => (one.lot ? `, lot ${one.lot}` : "");
  const corrections = [
    ...Object.values(state.steps).flatMap((at) => at.readings),
    ...state.parts,
    ...state.consumables,
    ...state.findings,
    ...state.notes,
  ].flatMap((one) => one.corrections);
  return [
    [
      "Parts fitted",
      state.parts.map((one) => `${partName(procedure, one.item, one.slot, record.itemNames)}${lot(one)}`),
    ],
    [
      "Materials used",
      sumMaterials(state.consumables).map(
        ({ item, qty, unit, lots }) =>
          `${materialName(procedure, item, record.itemNames)}, ${qty} ${unit}${lots.length > 0 ? `, lot ${lots.join(", ")}` : ""}`,
      ),
    ],
    ["Parts off, locks, and what holds for now", looseEnds(procedure, state, (id) => nameOf(record, id))],
    [
      "Times that are not certain, as the device's clock was set or wrong",
      record.uncertain.map((one) => `${one.words} (${nameOf(record, one.by)}, ${siteTime(one.at, timeZone)})`),
    ],
    [
      "Came after it was closed, no part of the record",
      record.cameLate.map((one) => `${one.words} (${nameOf(record, one.by)}, ${siteTime(one.at, timeZone)})`),
    ],
    [
      "Corrections",
      corrections.map(
        (one) =>
          `${nameOf(record, one.by)}, ${siteTime(one.at, timeZone)}: ${Object.values(one.old).join(", ")} became ${Object.values(one.set).join(", ")}; ${one.why}`,
      ),
    ],
  ];
}

function customerWords({ state: { customerSignature: customer } }: RecordView): string {
  if (customer === null) return "Customer: did not sign";
  if (customer.method === "not-present") return `Customer not present: ${customer.reason}`;
  return `Customer: ${customer.name}${customer.method === "typed" ? " (typed)" : ""}`;
}

/** What vouches for the record: its numbers in the chain, and their hashes. */
function writeVouched(page: Page, { chain }: RecordView): void {
  page.doc.moveDown(1);
  for (const { kind, seq, hash } of chain)
    page.write(
      { face: "figures", size: 7.5, colour: SOFT },
      `${kind === "record" ? "Record" : "Addition"} no. ${seq} of the chain, SHA-256 ${hash}`,
      { width: page.width },
    );
}

function writeSignatures(page: Page, record: RecordView): void {
  const { doc, width } = page;
  const { customerSignature: customer, technicianSignature } = record.state;
  page.keepFree(210);
  page.heading("Signatures");
  const top = doc.y + 4;
  const half = width / 2 - 10;
  const right = MARGIN + half + 20;
  if (customer?.method === "drawn")
    doc
      .save()
      .translate(MARGIN, top)
      .scale(half / 560)
      .path(customer.drawing)
      .lineWidth(3)
      .lineCap("round")
      .stroke(INK)
      .restore();
  const lineY = top + 85;
  page.line(lineY, 0.7, INK, MARGIN, MARGIN + half);
  page.line(lineY, 0.7, INK, right, MARGIN + width);
  const words = { face: "text", size: 10 } as const;
  const also = record.together.map((one) => one.machineName).join(", ");
  page.write(words, `${customerWords(record)}${also ? `\nOne signature for the visit, with ${also}` : ""}`, {
    y: lineY + 4,
    width: half,
  });
  page.write(
    words,
    technicianSignature
      ? `Technician: ${technicianSignature.name}, signed with password`
      : "Technician: ended the sheet",
    { x: right, y: lineY + 4, width: half },
  );
}
