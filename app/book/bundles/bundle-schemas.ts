import * as yup from "yup";

import { narrowing } from "~/book/search/search-schema";

/** What a bundle is made of: the book as it is narrowed. */
export const bundleSchema = yup.object(narrowing);

/** What can be made of records that were found. */
export const BUNDLE_KINDS = {
  "records-pdf": { words: "Records as one PDF", file: "records.pdf", mime: "application/pdf" },
  "readings-csv": { words: "Readings as CSV", file: "readings.csv", mime: "text/csv; charset=utf-8" },
} as const;
export type BundleKind = keyof typeof BUNDLE_KINDS;
