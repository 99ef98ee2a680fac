import { type PastValues, type Procedure, questionValue, type RunEvent } from "../../core/index";

/** A log in which whoever was asked about an odd value has said that it is right. */
export const askedAbout = (procedure: Procedure, entries: readonly RunEvent[], past: PastValues): RunEvent[] =>
  entries.map((entry): RunEvent => {
    const step = entry.type === "reading" ? procedure.steps.find((one) => one.id === entry.step) : undefined;
    if (entry.type !== "reading" || !step) return entry;
    const { verdict } = questionValue(procedure, step, entry.value, { past, on: entry.at.slice(0, 10) });
    return verdict === "unusual" ? { ...entry, asked: { answer: "right" } } : entry;
  });
