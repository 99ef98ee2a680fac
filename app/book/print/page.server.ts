import { setFace, type Typeface, UNKNOWN } from "~/kit/server/pdf-fonts.server";

export const MARGIN = 50;
export const INK = "#17191c";
export const SOFT = "#495059";

/** What is drawn again and again, from the top of the page down. */
export class Page {
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

  /** Words at the foot of every page from one to the last. */
  footers(words: string, from = 0): void {
    const { doc, width } = this;
    const count = doc.bufferedPageRange().count - from;
    for (let page = 0; page < count; page++) {
      doc.switchToPage(from + page);
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
