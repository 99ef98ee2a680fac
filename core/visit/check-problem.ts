import { CoreError } from "../errors";
import { requireNotNegative } from "../numbers";
import type { VisitProblem } from "./types";

/** Technicians with hours or begun work of their own are told apart by a bit each. */
export const MOST_DISTINCT_TECHNICIANS = 30;

/** Later than any visit; keeps sums of times exact in 32 bits. */
const LATEST_MINUTE = 10_000_000;

/**
 * Refuses a visit that is malformed. That its work cannot be done is an outcome, not an error.
 *
 * @throws CoreError naming the field
 */
export function checkVisitProblem(problem: VisitProblem): void {
  const { technicians, jobs, resources = [], technicianHours, fixed = [] } = problem;
  if (!Number.isInteger(technicians) || technicians < 1) {
    throw new CoreError(
      "bad-number",
      "technicians",
      `A visit needs at least one technician, not ${String(technicians)}.`,
    );
  }
  const known = new Set<string>();
  resources.forEach(({ id, capacity }, r) => {
    if (known.has(id)) throw new CoreError("bad-value", `resources[${r}].id`, `Resource ${id} is listed twice.`);
    known.add(id);
    requireWhole(capacity, `resources[${r}].capacity`);
  });
  const byId = new Map<string, number>();
  jobs.forEach((job, j) => {
    const at = `jobs[${j}]`;
    if (byId.has(job.id)) throw new CoreError("bad-value", `${at}.id`, `Job ${job.id} is listed twice.`);
    byId.set(job.id, j);
    if (job.release !== undefined) requireWhole(job.release, `${at}.release`);
    if (job.deadline !== undefined) requireWhole(job.deadline, `${at}.deadline`);
    job.windows?.forEach((span, w) => requireSpan(span, `${at}.windows[${w}]`));
    job.phases.forEach((phase, p) => {
      const path = `${at}.phases[${p}]`;
      requireWhole(phase.minutes, `${path}.minutes`);
      phase.uses?.forEach((id, u) => {
        if (!known.has(id))
          throw new CoreError("unknown-reference", `${path}.uses[${u}]`, `There is no resource ${id}.`);
      });
      if (phase.kind === "hands") return;
      if ((phase.kind as string) !== "wait")
        throw new CoreError(
          "bad-value",
          `${path}.kind`,
          `A phase is "hands" or "wait", not ${String((phase as { kind: unknown }).kind)}.`,
        );
      if (phase.maxMinutes === undefined) return;
      requireWhole(phase.maxMinutes, `${path}.maxMinutes`);
      if (phase.maxMinutes < phase.minutes) {
        throw new CoreError(
          "out-of-range",
          `${path}.maxMinutes`,
          `${job.id} must wait at least ${phase.minutes} and at most ${phase.maxMinutes} minutes: that cannot both be.`,
        );
      }
      if (p === job.phases.length - 1) {
        throw new CoreError(
          "bad-value",
          `${path}.maxMinutes`,
          `${job.id} ends with a wait: nothing comes after it that a longest time could hold to.`,
        );
      }
    });
  });
  if (technicianHours !== undefined) {
    if (technicianHours.length !== technicians) {
      throw new CoreError(
        "bad-value",
        "technicianHours",
        `Give hours for each of the ${technicians} technicians, not for ${technicianHours.length}.`,
      );
    }
    technicianHours.forEach((spans, t) => spans.forEach((span, s) => requireSpan(span, `technicianHours[${t}][${s}]`)));
  }
  const begun = new Set<string>();
  fixed.forEach((one, f) => {
    const path = `fixed[${f}]`;
    const j = byId.get(one.job);
    if (j === undefined) throw new CoreError("unknown-reference", `${path}.job`, `There is no job ${one.job}.`);
    const phase = jobs[j]!.phases[one.index];
    if (phase === undefined)
      throw new CoreError("unknown-reference", `${path}.index`, `${one.job} has no phase ${one.index}.`);
    if (begun.has(`${one.index} ${one.job}`))
      throw new CoreError("bad-value", path, `Phase ${one.index} of ${one.job} is fixed twice.`);
    begun.add(`${one.index} ${one.job}`);
    // Work may have begun before the time that is minute 0 now.
    requireWhole(Math.abs(one.start), `${path}.start`);
    if (one.technician === undefined) return;
    if (!Number.isInteger(one.technician) || one.technician < 0 || one.technician >= technicians) {
      throw new CoreError(
        "out-of-range",
        `${path}.technician`,
        `Technicians are numbered 0 to ${technicians - 1}; ${String(one.technician)} is none of them.`,
      );
    }
    if (phase.kind === "wait")
      throw new CoreError(
        "bad-value",
        `${path}.technician`,
        `Phase ${one.index} of ${one.job} is a wait: it takes no technician.`,
      );
  });
  if (
    technicians > MOST_DISTINCT_TECHNICIANS &&
    (technicianHours !== undefined || fixed.some((one) => one.technician !== undefined))
  ) {
    throw new CoreError(
      "out-of-range",
      "technicians",
      `Up to ${MOST_DISTINCT_TECHNICIANS} technicians with hours of their own can be planned on one visit, not ${technicians}.`,
    );
  }
}

function requireWhole(value: unknown, path: string): number {
  const number = requireNotNegative(value, path);
  if (!Number.isInteger(number))
    throw new CoreError("bad-number", path, `${path} is in whole minutes or pieces, not ${number}.`);
  if (number > LATEST_MINUTE)
    throw new CoreError("out-of-range", path, `${path} is ${number}, more than any visit has.`);
  return number;
}

function requireSpan(span: unknown, path: string): void {
  if (!Array.isArray(span) || span.length !== 2) throw new CoreError("bad-value", path, `${path} must be [from, to].`);
  const from = requireWhole(span[0], `${path}[0]`);
  const to = requireWhole(span[1], `${path}[1]`);
  if (to < from) throw new CoreError("out-of-range", path, `${path} ends (${to}) before it begins (${from}).`);
}
