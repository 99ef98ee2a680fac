import type { PrintedRecord } from "~/book/print/printed-record";

/** A record in a bundle, with what its line in the index says. */
export interface BundledRecord {
  line: { number: string; day: string; machine: string; work: string; exceptions: string };
  printed: PrintedRecord;
}

/** What stands before the index. */
export interface BundleHead {
  title: string;
  letterhead: { name: string; lines: string } | null;
  /** What the book was narrowed by, and what was found, a line each. */
  lines: string[];
  madeAt: string;
}
