import { execFileSync } from "node:child_process";

/** The words of each page of a PDF, as a reader sees them. */
export function pagesOfPdf(pdf: Uint8Array): string[] {
  const text = execFileSync("pdftotext", ["-layout", "-", "-"], { input: pdf, encoding: "utf8" });
  return text.split("\f").slice(0, -1);
}
