/** A record in the words and lines in which it is printed: plain data, so that a thread aside can draw it. */
export interface PrintedRecord {
  sheetId: string;
  /** What its document is called. */
  name: string;
  closedAt: string;
  letterhead: { name: string; lines: string } | null;
  title: string;
  /** Under the title: what kind of record it is. */
  kind: string;
  facts: [name: string, value: string][];
  /** What is not as it should be, before everything else. */
  exceptions: [title: string, lines: string[]][];
  /** Title of the step, what it came to, who and when. */
  steps: [title: string, result: string, by: string][];
  lists: [title: string, lines: string[]][];
  signatures: { drawing: string | null; customer: string; technician: string };
  vouched: string[];
  footer: string;
}
