import { CoreError } from "../errors";
import { requireList, requireRecord, requireText, withoutNulls } from "../inputs";
import { must } from "../must";
import { requireFinite, requireNotNegative } from "../numbers";
import { refuseCircles } from "./after";
import type { FixedPhase, Phase, PhaseRef, VisitJob, VisitProblem } from "./types";

/** Technicians with hours or begun work of their own are told apart by a bit each. */
export const MOST_DISTINCT_TECHNICIANS = 30;

/** Later than any visit; keeps sums of times exact in 32 bits. */
const LATEST_MINUTE = 10_000_000;

/**
 * A visit, checked; what is null in it is absent. That its work cannot be done is an outcome, not an error.
 *
 * @throws CoreError naming the field
 */
export function readVisitProblem(given: VisitProblem): VisitProblem {
  const problem = withoutNulls(requireRecord(given, "problem"));
  const { technicians } = problem;
  if (!Number.isInteger(technicians) || technicians < 1) {
    throw new CoreError(
      "bad-number",
      "technicians",
      `A visit needs at least one technician, not ${String(technicians)}.`,
    );
  }
  const known = readResources(problem);
  const jobs = requireList(problem.jobs, "jobs").map((job, j) => readJob(job, `jobs[${j}]`, known));
  const byId = new Map<string, VisitJob>();
  jobs.forEach((job, j) => {
    if (byId.has(job.id)) throw new CoreError("bad-value", `jobs[${j}].id`, `Job ${job.id} is listed twice.`);
    byId.set(job.id, job);
  });
  jobs.forEach((job, j) => {
    requireRefs(job.after, `jobs[${j}].after`, byId);
    job.phases.forEach((phase, p) => {
      if (phase.kind === "hands") requireRefs(phase.after, `jobs[${j}].phases[${p}].after`, byId);
    });
  });
  refuseCircles(jobs);
  if (problem.technicianHours !== undefined) checkHours(problem.technicianHours, technicians);
  const fixed = problem.fixed === undefined ? undefined : readFixed(problem.fixed, byId, technicians);
  if (
    technicians > MOST_DISTINCT_TECHNICIANS &&
    (problem.technicianHours !== undefined || fixed?.some((one) => one.technician !== undefined))
  ) {
    throw new CoreError(
      "out-of-range",
      "technicians",
      `Up to ${MOST_DISTINCT_TECHNICIANS} technicians with hours of their own can be planned on one visit, not ${technicians}.`,
    );
  }
  return { ...problem, jobs, ...(fixed ? { fixed } : {}) };
}

/** Ids of what is shared. */
function readResources({ resources }: VisitProblem): Set<string> {
  const known = new Set<string>();
  if (resources === undefined) return known;
  requireList(resources, "resources").forEach((resource, r) => {
    const { id, capacity } = requireRecord(resource, `resources[${r}]`);
    requireText(id, `resources[${r}].id`);
    if (known.has(id)) throw new CoreError("bad-value", `resources[${r}].id`, `Resource ${id} is listed twice.`);
    known.add(id);
    requireWhole(capacity, `resources[${r}].capacity`);
  });
  return known;
}

function readJob(given: VisitJob, at: string, known: ReadonlySet<string>): VisitJob {
  const job = withoutNulls(requireRecord(given, at));
  requireText(job.id, `${at}.id`);
  if (job.release !== undefined) requireWhole(job.release, `${at}.release`);
  if (job.deadline !== undefined) requireWhole(job.deadline, `${at}.deadline`);
  if (job.windows !== undefined)
    requireList(job.windows, `${at}.windows`).forEach((span, w) => {
      requireSpan(span, `${at}.windows[${w}]`);
    });
  const after = readRefs(job.after, `${at}.after`);
  const phases = requireList(job.phases, `${at}.phases`).map((phase, p, all) =>
    readPhase(phase, { job: job.id, path: `${at}.phases[${p}]`, known, last: p === all.length - 1 }),
  );
  return { ...job, phases, ...(after ? { after } : {}) };
}

/** What something comes after, by its shape; that there is such a phase is looked at once all jobs are known. */
function readRefs(given: PhaseRef[] | undefined, path: string): PhaseRef[] | undefined {
  if (given === undefined) return undefined;
  return requireList(given, path).map((one, r) => {
    const { job, index } = requireRecord(one, `${path}[${r}]`);
    requireText(job, `${path}[${r}].job`);
    requireWhole(index, `${path}[${r}].index`);
    return { job, index };
  });
}

function requireRefs(refs: PhaseRef[] | undefined, path: string, byId: ReadonlyMap<string, VisitJob>): void {
  refs?.forEach(({ job, index }, r) => {
    const found = byId.get(job);
    if (!found) throw new CoreError("unknown-reference", `${path}[${r}].job`, `There is no job ${job}.`);
    if (index >= found.phases.length)
      throw new CoreError("unknown-reference", `${path}[${r}].index`, `${job} has no phase ${index}.`);
  });
}

function readPhase(
  given: Phase,
  { job, path, known, last }: { job: string; path: string; known: ReadonlySet<string>; last: boolean },
): Phase {
  const phase = withoutNulls(requireRecord(given, path));
  requireWhole(phase.minutes, `${path}.minutes`);
  if (phase.uses !== undefined)
    requireList(phase.uses, `${path}.uses`).forEach((id, u) => {
      if (!known.has(id)) throw new CoreError("unknown-reference", `${path}.uses[${u}]`, `There is no resource ${id}.`);
    });
  if (phase.kind === "hands") {
    const after = readRefs(phase.after, `${path}.after`);
    return after ? { ...phase, after } : phase;
  }
  if ((phase.kind as string) !== "wait")
    throw new CoreError(
      "bad-value",
      `${path}.kind`,
      `A phase is "hands" or "wait", not ${String((phase as { kind: unknown }).kind)}.`,
    );
  if ((phase as { after?: unknown }).after !== undefined)
    throw new CoreError(
      "bad-value",
      `${path}.after`,
      `${job}: a wait begins when what goes before it ends; say on the work behind it what that comes after.`,
    );
  if (phase.maxMinutes === undefined) return phase;
  requireWhole(phase.maxMinutes, `${path}.maxMinutes`);
  if (phase.maxMinutes < phase.minutes) {
    throw new CoreError(
      "out-of-range",
      `${path}.maxMinutes`,
      `${job} must wait at least ${phase.minutes} and at most ${phase.maxMinutes} minutes: that cannot both be.`,
    );
  }
  if (last) {
    throw new CoreError(
      "bad-value",
      `${path}.maxMinutes`,
      `${job} ends with a wait: nothing comes after it that a longest time could hold to.`,
    );
  }
  return phase;
}

function checkHours(technicianHours: [number, number][][], technicians: number): void {
  if (requireList(technicianHours, "technicianHours").length !== technicians) {
    throw new CoreError(
      "bad-value",
      "technicianHours",
      `Give hours for each of the ${technicians} technicians, not for ${technicianHours.length}.`,
    );
  }
  technicianHours.forEach((spans, t) => {
    requireList(spans, `technicianHours[${t}]`).forEach((span, s) => {
      requireSpan(span, `technicianHours[${t}][${s}]`);
    });
  });
}

function readFixed(given: FixedPhase[], byId: ReadonlyMap<string, VisitJob>, technicians: number): FixedPhase[] {
  const begun = new Set<string>();
  const fixed = requireList(given, "fixed").map((some, f) => {
    const path = `fixed[${f}]`;
    const one = withoutNulls(requireRecord(some, path));
    const job = byId.get(one.job);
    if (job === undefined) throw new CoreError("unknown-reference", `${path}.job`, `There is no job ${one.job}.`);
    const phase = job.phases[one.index];
    if (phase === undefined)
      throw new CoreError("unknown-reference", `${path}.index`, `${one.job} has no phase ${one.index}.`);
    if (begun.has(`${one.index} ${one.job}`))
      throw new CoreError("bad-value", path, `Phase ${one.index} of ${one.job} is fixed twice.`);
    begun.add(`${one.index} ${one.job}`);
    // Work may have begun before the time that is minute 0 now.
    requireWhole(Math.abs(requireFinite(one.start, `${path}.start`)), `${path}.start`);
    if (one.technician === undefined) return one;
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
    return one;
  });
  fixed.forEach(({ job, index }, f) => {
    const open = must(byId.get(job)).phases.findIndex(
      (phase, p) => p < index && phase.kind === "hands" && !begun.has(`${p} ${job}`),
    );
    if (open >= 0)
      throw new CoreError(
        "missing",
        `fixed[${f}]`,
        `Phase ${index} of ${job} is said to have begun, but not phase ${open} before it: say when that was.`,
      );
  });
  return fixed;
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
