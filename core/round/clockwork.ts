import { CoreError } from "../errors";
import { requireList, requireRecord, requireText, withoutNulls } from "../inputs";
import { must } from "../must";
import { requireFinite, requireNotNegative } from "../numbers";
import type { RoundProblem, RoundTimes } from "./types";

export const DAY_MINUTES = 1440;

/** How a round's time runs: legs with their timetables, stops with their windows. Node 0 is the depot, stop i is node i + 1. */
export interface Clockwork {
  stops: number;
  startAt: number;
  returnToDepot: boolean;
  /** Neither windows nor timetables: only travel counts. */
  plain: boolean;
  travel: number[][];
  /** Arrival when leaving `from` at `time`. Never earlier for leaving later. */
  arrive(from: number, to: number, time: number): number;
  /** When work may start for an arrival. */
  open(node: number, arrival: number): number;
  /** Minutes a start is late. */
  late(node: number, start: number): number;
  minutes(node: number): number;
}

/** @throws CoreError for a malformed round */
export function clockworkOf(problem: RoundProblem): Clockwork {
  const {
    stops: given,
    travel,
    startAt = 0,
    returnToDepot = true,
    timetables = [],
  } = withoutNulls(requireRecord(problem, "problem"));
  const ids = new Set<string>();
  const stops = requireList(given, "stops").map((stop, i) => withoutNulls(requireRecord(stop, `stops[${i}]`)));
  stops.forEach((stop, i) => {
    requireText(stop.id, `stops[${i}].id`);
    if (stop.windows !== undefined) requireList(stop.windows, `stops[${i}].windows`);
    if (ids.has(stop.id)) throw new CoreError("bad-value", `stops[${i}].id`, `Stop ${stop.id} is listed twice.`);
    ids.add(stop.id);
    requireNotNegative(stop.minutes, `stops[${i}].minutes`);
    stop.windows?.forEach((span, w) => {
      const path = `stops[${i}].windows[${w}]`;
      if (!Array.isArray(span) || (span as unknown[]).length !== 2)
        throw new CoreError("bad-value", path, `${path} must be [from, to].`);
      if (requireFinite(span[1], `${path}[1]`) < requireFinite(span[0], `${path}[0]`)) {
        throw new CoreError("out-of-range", path, `${path} ends (${span[1]}) before it begins (${span[0]}).`);
      }
    });
  });
  const size = stops.length + 1;
  if (
    !Array.isArray(travel) ||
    travel.length !== size ||
    travel.some((row) => !Array.isArray(row) || row.length !== size)
  ) {
    throw new CoreError(
      "bad-value",
      "travel",
      `For ${stops.length} stops travel needs ${size} rows of ${size} minutes, the depot first.`,
    );
  }
  travel.forEach((row, i) => row.forEach((minutes, k) => requireNotNegative(minutes, `travel[${i}][${k}]`)));
  requireFinite(startAt, "startAt");

  const sailings = new Map<number, { departures: number[]; minutes: number }>();
  requireList(timetables, "timetables").forEach((one, t) => {
    requireList(requireRecord(one, `timetables[${t}]`).departures, `timetables[${t}].departures`);
    for (const end of ["from", "to"] as const) {
      if (!Number.isInteger(one[end]) || one[end] < 0 || one[end] >= size) {
        throw new CoreError(
          "unknown-reference",
          `timetables[${t}].${end}`,
          `There is no place ${one[end]} in a round of ${stops.length} stops.`,
        );
      }
    }
    if (one.departures.length === 0)
      throw new CoreError("missing", `timetables[${t}].departures`, `Timetable ${t} has no departures.`);
    one.departures.forEach((time, d) => requireFinite(time, `timetables[${t}].departures[${d}]`));
    requireNotNegative(one.minutes, `timetables[${t}].minutes`);
    sailings.set(one.from * size + one.to, {
      departures: [...one.departures].sort((a, b) => a - b),
      minutes: one.minutes,
    });
  });
  const minutesUnderWay = travel.map((row, i) =>
    row.map((minutes, k) => sailings.get(i * size + k)?.minutes ?? minutes),
  );
  const windows = stops.map((stop) => (stop.windows?.length ? [...stop.windows].sort((a, b) => a[0] - b[0]) : null));
  const lastEnd = windows.map((spans) => (spans ? Math.max(...spans.map((span) => span[1])) : Infinity));

  return {
    stops: stops.length,
    startAt,
    returnToDepot,
    plain: sailings.size === 0 && windows.every((spans) => spans === null),
    travel: minutesUnderWay,
    arrive(from, to, time) {
      const sailing = sailings.size === 0 ? undefined : sailings.get(from * size + to);
      return (sailing ? nextDeparture(sailing.departures, time) : time) + must(must(minutesUnderWay[from])[to]);
    },
    open(node, arrival) {
      const spans = windows[node - 1] ?? null;
      if (spans === null || arrival > must(lastEnd[node - 1])) return arrival;
      let start = Infinity;
      for (const [from, to] of spans) if (arrival <= to) start = Math.min(start, Math.max(arrival, from));
      return start;
    },
    late: (node, start) => Math.max(0, start - must(lastEnd[node - 1])),
    minutes: (node) => must(stops[node - 1]).minutes,
  };
}

/** First departure at or after a time; the table repeats every 24 hours. */
function nextDeparture(departures: readonly number[], time: number): number {
  const last = must(departures[departures.length - 1]);
  const days = time <= last ? 0 : Math.ceil((time - last) / DAY_MINUTES);
  for (const departure of departures) if (departure + days * DAY_MINUTES >= time) return departure + days * DAY_MINUTES;
  return must(departures[0]) + (days + 1) * DAY_MINUTES;
}

/** Times of a round driven in a given order of nodes. */
export function drive(clock: Clockwork, order: readonly number[]): RoundTimes {
  const arrive: number[] = [];
  const start: number[] = [];
  const leave: number[] = [];
  let time = clock.startAt;
  let at = 0;
  let travelMinutes = 0;
  let lateMinutes = 0;
  for (const node of order) {
    const arrival = clock.arrive(at, node, time);
    const begin = clock.open(node, arrival);
    travelMinutes += must(must(clock.travel[at])[node]);
    lateMinutes += clock.late(node, begin);
    time = begin + clock.minutes(node);
    arrive.push(arrival);
    start.push(begin);
    leave.push(time);
    at = node;
  }
  if (clock.returnToDepot && order.length > 0) {
    travelMinutes += must(must(clock.travel[at])[0]);
    time = clock.arrive(at, 0, time);
  }
  return { arrive, start, leave, travelMinutes, lateMinutes, endAt: time };
}

/** Slack for sums of minutes that are not whole. */
const SAME = 1e-9;

/** Below zero: the first is better. Minutes late, then travel, then the end. */
export function compareRounds(a: RoundTimes, b: RoundTimes): number {
  for (const key of ["lateMinutes", "travelMinutes", "endAt"] as const) {
    const difference = a[key] - b[key];
    if (Math.abs(difference) > SAME) return difference;
  }
  return 0;
}
