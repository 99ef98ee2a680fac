import { INK, MARGIN, Page, SOFT } from "~/book/print/page.server";
import { bytesOf, drawRecord, newDocument } from "~/book/print/record-pdf.server";

import type { BundledRecord, BundleHead } from "./bundle-page";

/** Height of a line of the index, in points. */
const LINE = 15;
const COLUMNS = [
  { name: "No.", x: 0, width: 34 },
  { name: "Day", x: 38, width: 78 },
  { name: "Machine", x: 120, width: 128 },
  { name: "Work", x: 252, width: 118 },
  { name: "Exceptions", x: 374, width: 88 },
] as const;
const PAGE_NUMBER = 30;

/**
 * Records as one document: an index that leads to each, then the records as they are printed by themselves, every page numbered
 * through. Runs in a thread aside.
 *
 * @param gathered lists of records as JSON: text is what goes to a thread without holding the process
 */
export async function drawBundle(head: BundleHead, gathered: readonly string[]): Promise<Uint8Array> {
  const records = gathered.flatMap((text) => JSON.parse(text) as BundledRecord[]);
  const doc = newDocument(head.title, head.madeAt);
  const finished = bytesOf(doc);
  const page = new Page(doc);
  const places = layIndex(page, head, records.length);
  const begins = records.map(({ printed }, i) => {
    doc.addPage();
    doc.addNamedDestination(`record-${i}`);
    doc.outline.addItem(`${i + 1}. ${printed.name}`);
    const at = doc.bufferedPageRange().count;
    drawRecord(doc, printed);
    return at;
  });
  records.forEach(({ line }, i) =>
    writeLine(page, line, { place: places[i] ?? { page: 0, y: 0 }, begins: begins[i] ?? 0, name: `record-${i}` }),
  );
  numberPages(page);
  doc.end();
  return finished;
}

interface LineAt {
  page: number;
  y: number;
}

/** Writes the head and keeps pages for the index free: where each of its lines goes. */
function layIndex(page: Page, { title, letterhead, lines }: BundleHead, count: number): LineAt[] {
  const { doc, width } = page;
  if (letterhead) {
    page.write({ face: "bold", size: 11 }, letterhead.name, { y: MARGIN, width });
    if (letterhead.lines) page.write({ face: "text", size: 8.5, colour: SOFT }, letterhead.lines, { width });
    doc.moveDown(0.8);
  }
  page.write({ face: "bold", size: 20 }, title, { y: letterhead ? doc.y : MARGIN, width });
  for (const line of lines) page.write({ face: "text", size: 10 }, line, { width });
  doc.moveDown(0.8);
  const bottom = doc.page.height - MARGIN - LINE;
  const places: LineAt[] = [];
  let y = doc.y;
  for (let at = 0; places.length < count; at++) {
    if (at > 0) {
      doc.addPage();
      y = MARGIN;
    }
    for (const { name, x, width: wide } of COLUMNS)
      page.write({ face: "bold", size: 8.5 }, name, { x: MARGIN + x, y, width: wide, lineBreak: false });
    page.write({ face: "bold", size: 8.5 }, "Page", {
      x: MARGIN + width - PAGE_NUMBER,
      y,
      width: PAGE_NUMBER,
      align: "right",
      lineBreak: false,
    });
    page.line(y + 12, 0.8);
    for (y += LINE + 2; y < bottom && places.length < count; y += LINE) places.push({ page: at, y });
  }
  return places;
}

function writeLine(
  page: Page,
  line: BundledRecord["line"],
  { place, begins, name }: { place: LineAt; begins: number; name: string },
): void {
  const { doc, width } = page;
  doc.switchToPage(place.page);
  const cells = [line.number, line.day, line.machine, line.work, line.exceptions];
  COLUMNS.forEach(({ x, width: wide }, i) =>
    page.write({ face: "text", size: 8.5 }, cells[i] ?? "", {
      x: MARGIN + x,
      y: place.y,
      width: wide,
      height: 11,
      ellipsis: true,
    }),
  );
  page.write({ face: "figures", size: 8.5 }, String(begins), {
    x: MARGIN + width - PAGE_NUMBER,
    y: place.y,
    width: PAGE_NUMBER,
    align: "right",
    lineBreak: false,
  });
  doc.goTo(MARGIN, place.y - 2, width, LINE, name);
}

/** Of how many each page is, at its corner. */
function numberPages(page: Page): void {
  const { doc, width } = page;
  const { count } = doc.bufferedPageRange();
  for (let at = 0; at < count; at++) {
    doc.switchToPage(at);
    // Text below the margin would otherwise start a page of its own.
    doc.page.margins.bottom = 0;
    page.write({ face: "figures", size: 7.5, colour: INK }, `${at + 1} / ${count}`, {
      y: doc.page.height - 20,
      width,
      align: "right",
      lineBreak: false,
    });
  }
}
