import { bytes, fixedText, instant, json, type RowOf, table, text, uuid, whole } from "../columns";
import type { JobState } from "../values";

/** Long work, done in the background by one process at a time; any of them goes on with it. */
export const jobs = table("jobs", {
  id: uuid().key(),
  kind: text(40),
  /** What whoever asked for it sees. */
  title: text(300),
  askedBy: uuid(),
  askedAt: instant(),
  /** What was asked for, by its kind. */
  what: json<unknown>(),
  state: text<JobState>(10),
  /** From where it goes on, by its kind. */
  kept: json<unknown>().orNull(),
  done: whole().withDefault(0),
  /** 0 while nobody knows. */
  total: whole().withDefault(0),
  /** Times that it was begun or gone on with and did not come further. */
  tries: whole().withDefault(0),
  /** Process that works on it; what another writes meanwhile does not count. */
  runner: text(80).withDefault(""),
  endedAt: instant().orNull(),
  message: text(500).withDefault(""),
});
export type JobRow = RowOf<typeof jobs>;

/** The levelled year of a filter as it was worked out last, and from what. */
export const workloads = table("workloads", {
  filterKey: fixedText(64).key(),
  marks: fixedText(64),
  madeAt: instant(),
  load52: json<unknown>(),
});

/** What a job has made, in pieces small enough for one statement. */
export const jobPieces = table("job_pieces", {
  jobId: uuid().key(),
  name: text(80).key(),
  seq: whole().key(),
  bytes: bytes(),
});
export type JobPieceRow = RowOf<typeof jobPieces>;
