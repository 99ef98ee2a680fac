import { CoreError } from "../errors";
import { requireList, requireRecord, requireText, withoutNulls } from "../inputs";
import { requireFinite, requireNotNegative, requirePositiveWhole } from "../numbers";
import { clockworkOf } from "../round/clockwork";
import { MACHINE, visitJobs } from "../visit/bench-jobs";
import { readVisitProblem } from "../visit/check-problem";
import type { Phase, PhaseRef } from "../visit/types";
import { MOST_BREAKS } from "./breaks";
import type { DayBreak, DayJob, DayProblem, DaySite } from "./types";

/**
 * A day, checked; what is null in it is absent.
 *
 * @throws CoreError naming the field
 */
export function readDayProblem(given: DayProblem): DayProblem {
  const problem = withoutNulls(requireRecord(given, "problem"));
  requireNotNegative(problem.startAt, "startAt");
  requireNotNegative(problem.endBy, "endBy");
  requirePositiveWhole(problem.technicians, "technicians");
  const sites = requireList(problem.sites, "sites").map((site, i) =>
    readSite(site, `sites[${i}]`, problem.technicians),
  );
  const known = new Set(sites.map((site) => site.id));
  if (known.size !== sites.length) throw new CoreError("bad-value", "sites", "A site is listed twice.");
  if (problem.order !== undefined) requireList(problem.order, "order");
  for (const id of [...(problem.order ?? []), ...(problem.first === undefined ? [] : [problem.first])]) {
    if (!known.has(id)) throw new CoreError("unknown-reference", "order", `There is no site ${id} on this day.`);
  }
  if (problem.order && (new Set(problem.order).size !== sites.length || problem.order.length !== sites.length))
    throw new CoreError("bad-value", "order", "An order names every site once.");
  if (problem.breaks !== undefined) requireBreaks(problem.breaks);
  // Ways and timetables are those of a round.
  clockworkOf({
    stops: sites.map(({ id }) => ({ id, minutes: 0 })),
    travel: problem.travel,
    startAt: problem.startAt,
    ...(problem.timetables !== undefined && { timetables: problem.timetables }),
  });
  return { ...problem, sites };
}

function readSite(given: DaySite, path: string, technicians: number): DaySite {
  const site = withoutNulls(requireRecord(given, path));
  requireNotNegative(site.arriving, `${path}.arriving`);
  requireNotNegative(site.leaving, `${path}.leaving`);
  if (site.access !== undefined) requireSpans(site.access, `${path}.access`);
  const jobs = requireList(site.jobs, `${path}.jobs`).map((one, j): DayJob => {
    const at = `${path}.jobs[${j}]`;
    const job = withoutNulls(requireRecord(one, at));
    if (job.windows !== undefined) requireSpans(job.windows, `${at}.windows`);
    if (job.readyBy !== undefined) requireFinite(job.readyBy, `${at}.readyBy`);
    if (job.value !== undefined) requireFinite(job.value, `${at}.value`);
    if (job.bench !== undefined) requireBench(job, at);
    return job;
  });
  const { id, fixed } = site;
  const resources = (site.resources as DaySite["resources"] | undefined) ?? [];
  const visit = within(path, () =>
    readVisitProblem({
      technicians,
      resources,
      jobs: jobs.flatMap((job) => visitJobs({ id: job.id }, job)),
      ...(fixed && { fixed }),
    }),
  );
  return {
    ...site,
    id,
    resources,
    jobs: jobs.map((job) =>
      job.bench ? job : { ...job, phases: visit.jobs.find(({ id: one }) => one === job.id)?.phases ?? job.phases },
    ),
    ...(visit.fixed && { fixed: visit.fixed }),
  };
}

function requireBreaks(given: DayBreak[]): void {
  const breaks = requireList(given, "breaks");
  if (breaks.length > MOST_BREAKS)
    throw new CoreError("out-of-range", "breaks", `A day has at most ${MOST_BREAKS} breaks.`);
  let before = -Infinity;
  breaks.forEach((one, i) => {
    const path = `breaks[${i}]`;
    const { minutes, from, by } = requireRecord(one, path);
    requirePositiveWhole(minutes, `${path}.minutes`);
    if (requireFinite(by, `${path}.by`) < requireFinite(from, `${path}.from`))
      throw new CoreError("out-of-range", `${path}.by`, `A break begins from ${from} on, not by ${by}.`);
    if (by < before) throw new CoreError("bad-value", `${path}.by`, "Breaks are given in their order.");
    before = by;
  });
}

/** Ways on the bench, by their shape: what is named by path is looked at, as jobs, with the visit. */
function requireBench(job: DayJob, path: string): void {
  const known = new Set<string>();
  requirePhases(job.phases, `${path}.phases`);
  requireList(job.bench, `${path}.bench`).forEach((one, b) => {
    const at = `${path}.bench[${b}]`;
    const way = requireRecord(one, at);
    if (requireText(way.path, `${at}.path`) === MACHINE || known.has(way.path))
      throw new CoreError("bad-value", `${at}.path`, `Each way on the bench has a name of its own, not "${way.path}".`);
    known.add(way.path);
    requireRefs(way.after, `${at}.after`);
    requirePhases(way.phases, `${at}.phases`);
  });
}

function requirePhases(phases: Phase[], path: string): void {
  requireList(phases, path).forEach((phase, p) => {
    const { kind, after } = requireRecord(phase, `${path}[${p}]`) as { kind: unknown; after?: PhaseRef[] | null };
    if (kind === "hands" && after !== undefined && after !== null) requireRefs(after, `${path}[${p}].after`);
  });
}

function requireRefs(refs: PhaseRef[], path: string): void {
  requireList(refs, path).forEach((ref, r) => {
    requireText(requireRecord(ref, `${path}[${r}]`).job, `${path}[${r}].job`);
  });
}

/** What is wrong inside is told by its place in the day. */
function within<Value>(path: string, read: () => Value): Value {
  try {
    return read();
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    throw new CoreError(error.code, `${path}.${error.path}`, error.message);
  }
}

function requireSpans(spans: [number, number][], path: string): void {
  requireList(spans, path).forEach((span, s) => {
    const at = `${path}[${s}]`;
    if (!Array.isArray(span) || (span as unknown[]).length !== 2)
      throw new CoreError("bad-value", at, `${at} must be [from, to].`);
    if (requireFinite(span[1], `${at}[1]`) < requireFinite(span[0], `${at}[0]`))
      throw new CoreError("out-of-range", at, `${at} ends (${span[1]}) before it begins (${span[0]}).`);
  });
}
