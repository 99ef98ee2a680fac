import { must, type Procedure, type RunEvent, type RunEventBody, type Step, timedBounds } from "@core";
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
}

export const EMPTY_LINE: PaperLine = { mark: "", values: [], minutes: null, remark: "" };

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

function lineEntries(procedure: Procedure, step: Step, line: PaperLine): RunEventBody[] {
  const at = { step: step.id, round: 1 };
  const remark = line.remark.trim();
  if (line.mark === "skip") return [{ type: "step-skipped", ...at, reason: remark || "Skipped on paper" }];
  const note: RunEventBody[] = remark === "" ? [] : [{ type: "note", ...at, text: remark }];
  const used = (step.uses ?? []).map((use): RunEventBody => {
    const unit = procedure.materials.find((one) => one.item === use.item)?.unit ?? "pc";
    return { type: "consumable-used", ...at, item: use.item, qty: use.qty, unit };
  });
  const readings = (unit: string): RunEventBody[] =>
    line.values.flatMap((value, point): RunEventBody[] =>
      value === null ? [] : [{ type: "reading", ...at, value, unit, ...(line.values.length > 1 ? { point } : {}) }],
    );
  switch (step.kind) {
    case "safety": {
      if (line.mark !== "ok") return [];
      const clock: RunEventBody[] =
        timedBounds(step) && line.minutes !== null
          ? [
              { type: "timer-started", ...at },
              { type: "timer-stopped", ...at },
            ]
          : [];
      return [...clock, ...readings("°C"), { type: "safety-confirmed", ...at }, ...note];
    }
    case "measure":
      return [...readings(step.unit), ...note];
    case "reset":
      return [...readings(procedure.meters.find((one) => one.id === step.meter)?.unit ?? "count"), ...note];
    case "wait":
      return line.minutes === null
        ? []
        : [...used, { type: "timer-started", ...at }, { type: "timer-stopped", ...at }, ...note];
    case "count":
      return line.mark === "ok"
        ? [...used, ...Array.from({ length: step.times }, (): RunEventBody => ({ type: "counted", ...at })), ...note]
        : [];
    case "replace":
    case "turn":
      return line.mark === "ok"
        ? [
            ...step.slots.map((slot): RunEventBody => ({ type: "part-fitted", ...at, item: step.item, slot, qty: 1 })),
            ...note,
          ]
        : [];
    case "inspect": {
      if (line.mark !== "ok" && line.mark !== "no") return [];
      const finding: RunEventBody[] =
        line.mark === "no" && step.finding
          ? [{ type: "finding", ...at, text: remark || step.ifNot, severity: step.finding }]
          : note;
      return [{ type: "step-done", ...at, answer: line.mark === "ok" ? "ok" : "not-ok" }, ...finding];
    }
    case "repeat":
      return line.mark === "ok" ? [{ type: "step-done", ...at, answer: "clean" }, ...note] : [];
    case "prove":
      return line.mark === "ok" ? [{ type: "step-done", ...at, answer: "ok" }, ...note] : [];
    case "choose":
    case "decide":
      return line.mark === "" ? [] : [{ type: "step-done", ...at, answer: line.mark }, ...note];
    case "do":
    case "mix":
    case "hand-off":
      return line.mark === "ok" ? [...used, { type: "step-done", ...at }, ...note] : [];
    case "nested":
      return [];
  }
}
