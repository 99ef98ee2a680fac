import { FAR, range, type VisitModel } from "./model";
import { measure, type Placement } from "./placement";

interface Busy {
  from: number;
  to: number;
  count: number;
}

/**
 * Places one job after the other, each at its earliest whole, around what stands already: quick, and good to begin with.
 * Longest waits kept, windows and hours kept; a job that finds no place ends the attempt.
 *
 * @param order jobs, first placed first
 * @returns null when a job finds no place
 */
export function insertJobs(model: VisitModel, order: readonly number[]): Placement | null {
  const start = new Int32Array(model.phases);
  const end = new Int32Array(model.phases);
  const technician = new Int32Array(model.phases).fill(-1);
  const people: Busy[][] = range(model.problem.technicians).map(() => []);
  const capacity = new Map(model.groups.map((group) => [group.id, group.capacity]));
  const held = new Map<string, Busy[]>([...capacity.keys()].map((id) => [id, []]));

  for (const j of order) {
    const times = placeJob(model, j, people, held, capacity);
    if (!times) return null;
    const uses = model.problem.jobs[j]!.phases;
    for (let p = model.firstPhase[j]!, i = 0; p < model.firstPhase[j + 1]!; p++, i++) {
      start[p] = times.start[i]!;
      end[p] = times.end[i]!;
      technician[p] = times.technician[i]!;
      if (end[p]! <= start[p]!) continue;
      if (model.isHands[p]) people[technician[p]!]!.push({ from: start[p]!, to: end[p]!, count: 1 });
      for (const id of uses[i]!.uses ?? []) held.get(id)!.push({ from: start[p]!, to: end[p]!, count: 1 });
    }
  }
  return measure(model, start, end, technician);
}

interface JobTimes {
  start: number[];
  end: number[];
  technician: number[];
}

/**
 * Earliest times of one job around what is busy. Every rule that is broken moves a start later by the least that mends it;
 * starts only grow, so the first point at which nothing is broken is the earliest of all.
 */
function placeJob(
  model: VisitModel,
  j: number,
  people: readonly Busy[][],
  held: ReadonlyMap<string, Busy[]>,
  capacity: ReadonlyMap<string, number>,
): JobTimes | null {
  const { phases } = model.problem.jobs[j]!;
  const first = model.firstPhase[j]!;
  const n = phases.length;
  const start = range(n).map((i) => model.earliest[model.startPoint[first + i]!]! + model.startOffset[first + i]!);
  const technician = new Array<number>(n).fill(-1);
  const endOf = (i: number): number =>
    phases[i]!.kind === "hands" || i === n - 1 ? start[i]! + phases[i]!.minutes : start[i + 1]!;
  const latest = (i: number): number => model.latest[model.startPoint[first + i]!]! + model.startOffset[first + i]!;

  for (let i = 0; i < n;) {
    const phase = phases[i]!;
    const before = phases[i - 1];
    let needed = start[i]!;
    if (before) {
      // The start of a wait is the end of what comes before it; other work may start at any time after.
      needed = Math.max(needed, start[i - 1]! + before.minutes);
    }
    if (phase.kind === "hands") {
      // Somebody free and everything it uses free, at the same time.
      for (;;) {
        const found = freeTechnician(model, first + i, needed, people);
        if (!found) return null;
        technician[i] = found.technician;
        needed = phase.minutes > 0 ? roomFor(phase, found.at, found.at + phase.minutes, held, capacity) : found.at;
        if (needed === found.at) break;
        if (needed >= FAR) return null;
      }
    } else {
      needed = roomFor(
        phase,
        needed,
        i === n - 1 ? needed + phase.minutes : Math.max(needed + phase.minutes, start[i + 1]!),
        held,
        capacity,
      );
    }
    if (needed > latest(i) || needed >= FAR) return null;
    start[i] = needed;
    if (phase.kind === "wait" && before?.kind === "hands" && start[i - 1]! + before.minutes < needed) {
      // A wait cannot start later than what it follows ends: that moves too.
      start[i - 1] = needed - before.minutes;
      i--;
      continue;
    }
    if (before?.kind === "wait") {
      if (before.maxMinutes !== undefined && start[i]! - start[i - 1]! > before.maxMinutes) {
        start[i - 1] = start[i]! - before.maxMinutes;
        i--;
        continue;
      }
      // Its end is this start: what it holds must be free until then.
      const free = roomFor(before, start[i - 1]!, start[i]!, held, capacity);
      if (free > start[i - 1]!) {
        start[i - 1] = free;
        i--;
        continue;
      }
    }
    i++;
  }
  const deadline = model.problem.jobs[j]!.deadline ?? FAR;
  const end = range(n).map(endOf);
  return end.some((time) => time > deadline) ? null : { start, end, technician };
}

function freeTechnician(
  model: VisitModel,
  p: number,
  from: number,
  people: readonly Busy[][],
): { at: number; technician: number } | null {
  let best: { at: number; technician: number } | null = null;
  for (let t = 0; t < people.length; t++) {
    if (model.distinct && !(model.mayDo[p]! & (1 << t))) continue;
    const spans = model.mayStart[p]![model.distinct ? t : 0] ?? null;
    let at = from;
    for (;;) {
      const open = openAt(spans, at);
      const clash =
        model.length[p]! > 0
          ? people[t]!.find((busy) => busy.from < open + model.length[p]! && busy.to > open)
          : undefined;
      if (!clash) {
        at = open;
        break;
      }
      at = clash.to;
      if (at >= FAR) break;
    }
    if (at < FAR && (best === null || at < best.at)) best = { at, technician: t };
  }
  return best;
}

function openAt(spans: Int32Array | null, time: number): number {
  if (spans === null) return time;
  for (let i = 0; i < spans.length; i += 2) if (time <= spans[i + 1]!) return Math.max(time, spans[i]!);
  return FAR;
}

/** First start from which what the phase uses is free until `end` (or as long after, when it moves). */
function roomFor(
  phase: { uses?: string[] },
  from: number,
  end: number,
  held: ReadonlyMap<string, Busy[]>,
  capacity: ReadonlyMap<string, number>,
): number {
  let at = from;
  const span = end - from;
  for (;;) {
    let moved = at;
    for (const id of new Set(phase.uses ?? [])) {
      const own = phase.uses!.filter((one) => one === id).length;
      const busy = held.get(id)!;
      if (own > (capacity.get(id) ?? 0)) return span > 0 ? FAR : at;
      const until = Math.max(end, at + span);
      for (const one of busy) {
        const instant = Math.max(one.from, at);
        if (instant >= until || one.to <= instant) continue;
        const taken = busy.reduce(
          (sum, other) => (other.from <= instant && other.to > instant ? sum + other.count : sum),
          0,
        );
        if (taken + own > capacity.get(id)!) moved = Math.max(moved, one.to);
      }
    }
    if (moved === at) return at;
    at = moved;
  }
}
