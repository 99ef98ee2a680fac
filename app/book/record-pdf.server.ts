import { limitWords, must } from "@core";
import PDFDocument from "pdfkit";

import { outcomeName } from "~/kit/outcomes";
import { loadFonts } from "~/kit/server/pdf-fonts.server";
import { outcomeOf } from "~/sheet/step-outcome";
import { siteTime } from "~/ui/site-time";

import type { RecordView } from "./records.server";

const MARGIN = 50;
const INK = "#17191c";
const SOFT = "#495059";

/** A record as an A4 PDF with selectable text, page numbers and the signatures. */
export async function recordPdf(record: RecordView): Promise<Buffer> {
  const { sheet, procedure, machine, state, steps, persons, timeZone } = record;
  const { text, bold, figures } = loadFonts();
  const doc = new PDFDocument({
    size: "A4",
    margin: MARGIN,
    bufferPages: true,
    tagged: true,
    lang: "en",
    info: {
      Title: `${procedure.title}: ${machine.name} ${machine.tag}`,
      Author: "Humble Hound",
      CreationDate: sheet.closedAt ?? sheet.openedAt,
    },
  });
  const chunks: Buffer[] = [];
  doc.on("data", (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((resolve) => doc.on("end", resolve));
  doc.registerFont("text", text).registerFont("bold", bold).registerFont("figures", figures);
  const width = doc.page.width - 2 * MARGIN;

  const heading = (words: string): void => {
    if (doc.y > doc.page.height - 140) doc.addPage();
    doc.moveDown(0.8).font("bold").fontSize(13).fillColor(INK).text(words, MARGIN).moveDown(0.2);
  };
  const fact = (name: string, value: string): void => {
    if (value !== "")
      doc
        .font("bold")
        .fontSize(10)
        .fillColor(INK)
        .text(`${name}: `, MARGIN, doc.y, { continued: true, width })
        .font("text")
        .text(value);
  };

  doc.font("bold").fontSize(20).fillColor(INK).text(procedure.title, MARGIN, MARGIN, { width });
  doc
    .font("text")
    .fontSize(10)
    .fillColor(SOFT)
    .text(state.outcome ? `Visit record: ${outcomeName(state.outcome.outcome)}, work not done` : "Service record");
  doc
    .moveTo(MARGIN, doc.y + 4)
    .lineTo(MARGIN + width, doc.y + 4)
    .lineWidth(1.5)
    .stroke(INK);
  doc.moveDown(0.8);
  fact("Machine", `${machine.name}, tag ${machine.tag}`);
  fact("Maker, model, serial", [machine.maker, machine.model, machine.serial].filter(Boolean).join(", "));
  fact("Site", [machine.customerName, machine.siteName, machine.area, machine.address].filter(Boolean).join(", "));
  fact("Started", state.startedAt ? `${siteTime(state.startedAt, timeZone)} (${timeZone})` : "");
  fact(
    state.outcome ? "Ended" : "Signed",
    sheet.closedAt ? `${siteTime(sheet.closedAt, timeZone)} by ${persons[sheet.closedBy ?? ""] ?? "unknown"}` : "",
  );
  if (state.outcome) fact("Reason", state.outcome.reason);
  if (state.technicianSignature?.missingReason)
    fact("Signed with steps missing", state.technicianSignature.missingReason);
  if (record.next) fact(state.outcome ? "Still due" : "Next due", record.next.row.dueOn ?? "no day yet");

  heading("Steps");
  for (const one of steps) {
    const limits =
      one.definition.kind === "measure" && one.definition.limits
        ? ` (allowed ${limitWords(one.definition.limits, one.definition.unit)})`
        : "";
    const used = [...new Set((one.state?.readings ?? []).flatMap((reading) => reading.instrument ?? []))].map(
      (id) =>
        `\nwith ${record.instruments[id] ?? "an unregistered instrument"}${must(one.state).readings.some((reading) => reading.instrument === id && reading.instrumentExpired) ? ", calibration expired" : ""}`,
    );
    const result = `${outcomeOf(one) || (one.settled ? "done" : "not settled")}${limits}${used.join("")}`;
    const title = `${one.definition.title}${one.round > 1 ? ` (round ${one.round})` : ""}`;
    const columns = [width * 0.4, width * 0.36, width * 0.24] as const;
    const by =
      one.state?.by && one.state.at ? `${persons[one.state.by] ?? "unknown"}\n${siteTime(one.state.at, timeZone)}` : "";
    doc.fontSize(9.5);
    const height =
      Math.max(
        doc.font("text").heightOfString(title, { width: columns[0] - 8 }),
        doc.heightOfString(result, { width: columns[1] - 8 }),
        doc
          .font("figures")
          .fontSize(8)
          .heightOfString(by || " ", { width: columns[2] }),
      ) + 6;
    if (doc.y + height > doc.page.height - MARGIN - 20) doc.addPage();
    const top = doc.y;
    doc
      .font("text")
      .fontSize(9.5)
      .fillColor(INK)
      .text(title, MARGIN, top + 2, { width: columns[0] - 8 });
    doc.text(result, MARGIN + columns[0], top + 2, { width: columns[1] - 8 });
    doc
      .font("figures")
      .fontSize(8)
      .fillColor(SOFT)
      .text(by, MARGIN + columns[0] + columns[1], top + 2, { width: columns[2] });
    doc
      .moveTo(MARGIN, top + height)
      .lineTo(MARGIN + width, top + height)
      .lineWidth(0.4)
      .stroke(SOFT);
    doc.y = top + height;
  }

  const list = (title: string, lines: string[]): void => {
    if (lines.length === 0) return;
    heading(title);
    for (const line of lines) doc.font("text").fontSize(10).fillColor(INK).text(`– ${line}`, MARGIN, doc.y, { width });
  };
  const partOf = (item: string) => procedure.parts.find((part) => part.item === item);
  list(
    "Parts fitted",
    state.parts.map(
      (part) =>
        `${partOf(part.item)?.name ?? part.item}: ${partOf(part.item)?.slots.find((slot) => slot.id === part.slot)?.name ?? part.slot}${part.lot ? `, lot ${part.lot}` : ""}`,
    ),
  );
  list(
    "Materials used",
    state.consumables.map(
      (used) =>
        `${procedure.materials.find((material) => material.item === used.item)?.name ?? used.item}, ${used.qty} ${used.unit}${used.lot ? `, lot ${used.lot}` : ""}`,
    ),
  );
  list(
    "Findings and notes",
    [...state.findings, ...state.notes].map((one) => `${one.severity ? `${one.severity}: ` : ""}${one.text}`),
  );
  const corrections = [
    ...Object.values(state.steps).flatMap((at) => at.readings),
    ...state.parts,
    ...state.consumables,
    ...state.findings,
    ...state.notes,
  ].flatMap((one) => one.corrections);
  list(
    "Corrections",
    corrections.map(
      (one) =>
        `${persons[one.by] ?? "unknown"}, ${siteTime(one.at, timeZone)}: ${Object.values(one.old).join(", ")} became ${Object.values(one.set).join(", ")}; ${one.why}`,
    ),
  );

  if (doc.y > doc.page.height - 210) doc.addPage();
  heading("Signatures");
  const top = doc.y + 4;
  const half = width / 2 - 10;
  const customer = state.customerSignature;
  if (customer?.method === "drawn") {
    doc
      .save()
      .translate(MARGIN, top)
      .scale(half / 560)
      .path(customer.drawing)
      .lineWidth(3)
      .lineCap("round")
      .stroke(INK)
      .restore();
  }
  const lineY = top + 85;
  doc
    .moveTo(MARGIN, lineY)
    .lineTo(MARGIN + half, lineY)
    .moveTo(MARGIN + half + 20, lineY)
    .lineTo(MARGIN + width, lineY)
    .lineWidth(0.7)
    .stroke(INK);
  const customerWords =
    customer === null
      ? "Customer: did not sign"
      : customer.method === "not-present"
        ? `Customer not present: ${customer.reason}`
        : `Customer: ${customer.name}${customer.method === "typed" ? " (typed)" : ""}`;
  doc
    .font("text")
    .fontSize(10)
    .fillColor(INK)
    .text(customerWords, MARGIN, lineY + 4, { width: half });
  doc.text(
    state.technicianSignature
      ? `Technician: ${state.technicianSignature.name}, signed with password`
      : "Technician: ended the sheet",
    MARGIN + half + 20,
    lineY + 4,
    { width: half },
  );

  const { count } = doc.bufferedPageRange();
  for (let page = 0; page < count; page++) {
    doc.switchToPage(page);
    // Text below the margin would otherwise start a page of its own.
    doc.page.margins.bottom = 0;
    doc
      .font("figures")
      .fontSize(7.5)
      .fillColor(SOFT)
      .text(
        `Sheet ${sheet.id} · ${procedure.id} v${procedure.version} · page ${page + 1} of ${count}`,
        MARGIN,
        doc.page.height - 32,
        {
          width,
          align: "center",
          lineBreak: false,
        },
      );
  }
  doc.end();
  await finished;
  return Buffer.concat(chunks);
}
