import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";

let fonts: { text: Buffer; bold: Buffer; figures: Buffer } | null = null;

/** The app's own typefaces, so that the record looks the same on every machine. */
export function loadFonts(): NonNullable<typeof fonts> {
  if (fonts) return fonts;
  const from = createRequire(join(process.cwd(), "package.json"));
  const file = (name: string): Buffer => readFileSync(from.resolve(`@fontsource/${name}`));
  fonts = {
    text: file("atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff"),
    bold: file("atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff"),
    figures: file("atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff"),
  };
  return fonts;
}
