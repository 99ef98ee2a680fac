import {
  must,
  type PastValues,
  type Plausible,
  type Procedure,
  questionValue,
  type RunEvent,
  type RunEventBody,
  type Step,
  timedBounds,
} from "@core";
import { v7 as uuidv7 } from "uuid";

/** What was written on paper beside one step. */
export interface PaperLine {
  /** `ok`: done or as it should be; `no`: not as it should be; else an answer's id. Empty: not settled. */
  mark: string;
  /** Readings by point, and the surface temperature of a cool-down. */
  values: (number | null)[];
  /** Minutes a wait took. */
  minutes: number | null;
  /** Why it was skipped, or what was found. */
  remark: string;
  /** Places that have a new part, where those found worn alone are renewed. */
  slots?: string[];
}

export const EMPTY_LINE: PaperLine = { mark: "", values: [], minutes: null, remark: "" };

/** A value on paper that is refused, or asked about. */
export interface PaperQuestion {
  entryId: string;
  title: string;
  judged: Plausible;
}

/** What of the values cannot be, or is not what the machine shows. */
export function paperQuestions(
  entries: readonly RunEvent[],
  procedure: Procedure,
  known: { past: PastValues; on: string },
): PaperQuestion[] {
  return entries.flatMap((entry) => {
    const step = entry.type === "reading" ? procedure.steps.find((one) => one.id === entry.step) : undefined;
    if (entry.type !== "reading" || !step) return [];
    const judged = questionValue(procedure, step, entry.value, known);
    const odd = judged.verdict === "impossible" || judged.verdict === "unusual";
    return odd ? [{ entryId: entry.id, title: step.title, judged }] : [];
  });
}

/** Clocks on paper that cannot be: no clock runs backwards, nor longer than the whole work. */
export function clockFaults(procedure: Procedure, lines: Record<string, PaperLine>, workMinutes: number): string[] {
  return procedure.steps.flatMap(({ id, title }) => {
    const minutes = lines[id]?.minutes ?? null;
    if (minutes === null || (minutes >= 0 && minutes <= workMinutes)) return [];
    return minutes < 0
      ? [`${title}: ${minutes} min is less than nothing.`]
      : [`${title}: ${minutes} min is longer than the whole work, ${Math.round(workMinutes)} min. Look at the times.`];
  });
}

/** Renewals that are ticked and name no place: those found worn alone are renewed, and paper has to say which they were. */
export const unnamedPlaces = ({ steps }: Procedure, lines: Record<string, PaperLine>): string[] =>
  steps
    .filter((step) => step.kind === "replace" && step.some && lines[step.id]?.mark === "ok")
    .filter(({ id }) => !lines[id]?.slots?.length)
    .map(({ title }) => `${title}: tick those that are new.`);

/** The log with what a person said of its unusual values: it stands so on the paper. */
export const asOnPaper = (entries: readonly RunEvent[], odd: readonly PaperQuestion[]): RunEvent[] =>
  entries.map((entry) =>
    entry.type === "reading" && odd.some((one) => one.entryId === entry.id)
      ? { ...entry, asked: { answer: "right" } }
      : entry,
  );

/**
 * The log that a sheet filled in on paper makes, spread evenly over the time it was worked in. Steps without a mark, a
 * value or a time stay open.
 */
export function paperEntries(
  procedure: Procedure,
  lines: Record<string, PaperLine>,
  work: { sheetId: string; by: string; device: string; fromMs: number; toMs: number },
): RunEvent[] {
  const bodies = procedure.steps.flatMap((step): RunEventBody[] =>
    lineEntries(procedure, step, lines[step.id] ?? EMPTY_LINE),
  );
  if (bodies.length === 0) return [];
  bodies.push({ type: "note", text: "Keyed in from the paper sheet." });
  const waited = bodies.map((body) => (body.type === "timer-stopped" ? (lines[body.step]?.minutes ?? 0) * 60_000 : 0));
  // What is left beside the waits is spread over the entries; a working time that is too short for the waits is stretched.
  const gap = Math.max(1000, (work.toMs - work.fromMs - waited.reduce((sum, ms) => sum + ms, 0)) / bodies.length);
  let at = work.fromMs;
  return bodies.map((body, i) => {
    at += must(waited[i]) > 0 ? must(waited[i]) : gap;
    return {
      id: uuidv7(),
      runId: work.sheetId,
      at: new Date(at).toISOString(),
      by: work.by,
      device: work.device,
      ...body,
    };
  });
}

/** A new part in each place; where those found worn alone are renewed, in those that are named, and the word that these were all. */
function newParts(step: Extract<Step, { kind: "replace" | "turn" }>, { slots = [] }: PaperLine): RunEventBody[] {
  if (step.kind === "turn" || !step.some) return fitted(step);
  return slots.length === 0 ? [] : [...fitted({ ...step, slots }), { type: "step-done", step: step.id, round: 1 }];
}

function lineEntries(procedure: Procedure, step: Step, line: PaperLine): RunEventBody[] {
  const at = { step: step.id, round: 1 };
  const remark = line.remark.trim();
  if (line.mark === "skip") return [{ type: "step-skipped", ...at, reason: remark || "Skipped on paper" }];
  const note: RunEventBody[] = remark === "" ? [] : [{ type: "note", ...at, text: remark }];
  const done = (answer?: string): RunEventBody => ({ type: "step-done", ...at, ...(answer ? { answer } : {}) });
  if (isUnmarked(step, line)) return [];
  switch (step.kind) {
    case "safety":
      return [...gateEntries(step, line), ...note];
    case "measure":
      return [...readings(step, line, step.unit), ...note];
    case "reset":
      return [...readings(step, line, meterUnit(procedure, step.meter)), ...note];
    case "wait":
      return line.minutes === null ? [] : [...used(procedure, step), ...clock(step), ...note];
    case "count":
      return [...used(procedure, step), ...counts(step), ...note];
    case "replace":
    case "turn":
      return [...newParts(step, line), ...note];
    case "inspect":
      return inspected(step, line, note);
    case "repeat":
    case "prove":
      return [done(step.kind === "repeat" ? "clean" : "ok"), ...note];
    case "choose":
    case "decide":
      return line.mark === "" ? [] : [done(line.mark), ...note];
    case "do":
    case "mix":
    case "hand-off":
      return [...used(procedure, step), done(), ...note];
    // On paper nobody is led through a search: it is worked on the page.
    case "find":
    case "nested":
      return [];
  }
}

const gateEntries = (step: Extract<Step, { kind: "safety" }>, line: PaperLine): RunEventBody[] => [
  ...gateClock(step, line),
  ...readings(step, line, "°C"),
  { type: "safety-confirmed", step: step.id, round: 1 },
];

/** Steps of which a tick is all that paper says. */
const WANTS_TICK = new Set<Step["kind"]>([
  "safety",
  "count",
  "replace",
  "turn",
  "repeat",
  "prove",
  "do",
  "mix",
  "hand-off",
]);

const isUnmarked = ({ kind }: Step, { mark, slots = [] }: PaperLine): boolean =>
  WANTS_TICK.has(kind) && mark !== "ok" && slots.length === 0;

function used(procedure: Procedure, step: Step): RunEventBody[] {
  return (step.uses ?? []).map((use) => {
    const unit = procedure.materials.find((one) => one.item === use.item)?.unit ?? "pc";
    return { type: "consumable-used", step: step.id, round: 1, item: use.item, qty: use.qty, unit };
  });
}

const counts = (step: Extract<Step, { kind: "count" }>): RunEventBody[] =>
  Array.from({ length: step.times }, () => ({ type: "counted", step: step.id, round: 1 }));

const fitted = ({ id, item, slots }: Extract<Step, { kind: "replace" | "turn" }>): RunEventBody[] =>
  slots.map((slot) => ({ type: "part-fitted", step: id, round: 1, item, slot, qty: 1 }));

const meterUnit = (procedure: Procedure, meter: string): string =>
  procedure.meters.find((one) => one.id === meter)?.unit ?? "count";

function readings(step: Step, { values }: PaperLine, unit: string): RunEventBody[] {
  return values.flatMap((value, point): RunEventBody[] =>
    value === null
      ? []
      : [{ type: "reading", step: step.id, round: 1, value, unit, ...(values.length > 1 ? { point } : {}) }],
  );
}

const clock = (step: Step): RunEventBody[] => [
  { type: "timer-started", step: step.id, round: 1 },
  { type: "timer-stopped", step: step.id, round: 1 },
];

const gateClock = (step: Step, { minutes }: PaperLine): RunEventBody[] =>
  timedBounds(step) && minutes !== null ? clock(step) : [];

/** As it should be or not; what is not, with the finding that the step makes of it. */
function inspected(
  step: Extract<Step, { kind: "inspect" }>,
  { mark, remark }: PaperLine,
  note: RunEventBody[],
): RunEventBody[] {
  if (mark !== "ok" && mark !== "no") return [];
  const at = { step: step.id, round: 1 };
  const finding: RunEventBody[] =
    mark === "no" && step.finding
      ? [{ type: "finding", ...at, text: remark.trim() || step.ifNot, severity: step.finding }]
      : note;
  return [{ type: "step-done", ...at, answer: mark === "ok" ? "ok" : "not-ok" }, ...finding];
}
