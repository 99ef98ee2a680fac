import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";

import { create, type Font } from "fontkit";

export type Typeface = "text" | "bold" | "figures";

interface Face {
  bytes: Buffer;
  font: Font;
}

/** The app's own typefaces, so that paper looks the same on every machine, and for each one that has more alphabets. */
const FILES: Record<Typeface, readonly [own: string, wide: string]> = {
  text: [
    "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff",
    "dejavu-fonts-ttf/ttf/DejaVuSans.ttf",
  ],
  bold: [
    "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff",
    "dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf",
  ],
  figures: [
    "@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff",
    "dejavu-fonts-ttf/ttf/DejaVuSansMono.ttf",
  ],
};

const faces = new Map<string, Face>();

function face(file: string): Face {
  let found = faces.get(file);
  if (!found) {
    const bytes = readFileSync(createRequire(join(process.cwd(), "package.json")).resolve(file));
    faces.set(file, (found = { bytes, font: create(bytes) as Font }));
  }
  return found;
}

/** Stands for a letter that no typeface here has: on a record it must be seen that there is one. */
export const UNKNOWN = "□";

/**
 * Words as they can be printed, and the bytes of the typeface for them: the app's own when it has all letters, else one
 * with many more alphabets. What neither has is printed as a box, never left out.
 */
export function printable(typeface: Typeface, words: string): { words: string; font: string; bytes: Buffer } {
  const [own, wide] = FILES[typeface];
  // Forms send line ends as two signs and keep tabs: they are room, not letters. A letter with its accent apart is one.
  const letters = Array.from(words.replace(/\r\n?/g, "\n").replaceAll("\t", " ").normalize("NFC"));
  const has = ({ font }: Face, letter: string): boolean =>
    letter === "\n" || font.hasGlyphForCodePoint(letter.codePointAt(0) ?? 0);
  if (letters.every((letter) => has(face(own), letter)))
    return { words: letters.join(""), font: own, bytes: face(own).bytes };
  const known = letters.map((letter) => (has(face(wide), letter) ? letter : UNKNOWN)).join("");
  return { words: known, font: wide, bytes: face(wide).bytes };
}

/** Sets the typeface for words and gives them back as they can be printed. */
export function setFace(doc: PDFKit.PDFDocument, typeface: Typeface, words: string): string {
  const found = printable(typeface, words);
  doc.registerFont(found.font, found.bytes).font(found.font);
  return found.words;
}
