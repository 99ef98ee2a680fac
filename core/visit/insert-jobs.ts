import { afterOf, inTurn } from "./after";
import { FAR, range, type VisitModel } from "./model";
import { measure, type Placement } from "./placement";
import { Profile } from "./profile";
import type { Phase } from "./types";

/** What a phase takes of a thing, by the thing's number. */
interface Use {
  resource: number;
  count: number;
}

/**
 * Places one stretch of work after the other, each at its earliest whole, around what stands already: quick, and good to begin
 * with. A stretch is what a longest wait or a thing in use holds together: most jobs are one, a job with an open wait is two.
 * Longest waits kept, windows and hours kept; a stretch that finds no place ends the attempt.
 */
export class JobInserter {
  readonly #model: VisitModel;
  readonly #people: Profile[];
  readonly #held: Profile[];
  readonly #capacity: number[];
  readonly #uses: Use[][];
  /** Jobs of which something has begun: what they hold is not for others to take. */
  readonly #begun: number[];
  readonly #isBegun: Uint8Array;
  readonly #start: Int32Array;
  readonly #end: Int32Array;
  readonly #technician: Int32Array;
  /** Hands phases that have begun, and by whom: −1 where that is not said. */
  readonly #fixed: { phase: number; by: number }[];
  readonly #isFixed: Uint8Array;
  /** Phases at which the stretches of each job begin, and one behind the last. */
  readonly #stretches: number[][];
  /** How many stretches of a job are placed, and how many were asked for. */
  readonly #placed: Int32Array;
  readonly #asked: Int32Array;
  /** By phase, those that it comes after. */
  readonly #after: readonly (readonly number[])[];
  /** By phase, those that come behind it, as far as they are of other jobs. */
  readonly #behind: readonly (readonly number[])[];
  /** All phases, each behind what it comes after. */
  readonly #turns: readonly number[];
  /** Jobs of which a stretch is being placed: what it waits for cannot wait for it. */
  readonly #isBusy: Uint8Array;

  constructor(model: VisitModel) {
    const { jobs, technicians, resources = [], fixed = [] } = model.problem;
    this.#model = model;
    this.#people = range(technicians).map(() => new Profile());
    this.#held = resources.map(() => new Profile());
    this.#capacity = resources.map(({ capacity }) => capacity);
    const numberOf = new Map(resources.map(({ id }, r) => [id, r]));
    this.#uses = jobs.flatMap((job) => job.phases.map((phase) => usesOf(phase, numberOf)));
    const jobNumber = new Map(jobs.map((job, j) => [job.id, j]));
    this.#begun = [...new Set(fixed.map((one) => jobNumber.get(one.job)!))];
    this.#isBegun = Uint8Array.from(jobs, (_, j) => (this.#begun.includes(j) ? 1 : 0));
    this.#start = new Int32Array(model.phases);
    this.#end = new Int32Array(model.phases);
    this.#technician = new Int32Array(model.phases).fill(-1);
    this.#fixed = fixed
      .map(({ job, index, technician }) => ({
        phase: model.firstPhase[jobNumber.get(job)!]! + index,
        by: technician ?? -1,
      }))
      .filter(({ phase }) => model.isHands[phase])
      .sort((a, b) => b.by - a.by || a.phase - b.phase);
    this.#isFixed = new Uint8Array(model.phases);
    for (const { phase } of this.#fixed) this.#isFixed[phase] = 1;
    this.#stretches = jobs.map((job, j) => stretchesOf(job.phases, model.firstPhase[j]!));
    this.#placed = new Int32Array(jobs.length);
    this.#asked = new Int32Array(jobs.length);
    this.#isBusy = new Uint8Array(jobs.length);
    const first = new Map(jobs.map((job, j) => [job.id, model.firstPhase[j]!]));
    this.#after = jobs.flatMap((job) =>
      job.phases.map((_, index) => afterOf(job, index).map((ref) => first.get(ref.job)! + ref.index)),
    );
    const behind: number[][] = this.#after.map(() => []);
    this.#after.forEach((list, p) => {
      for (const one of list) if (model.jobOf[one] !== model.jobOf[p]) behind[one]!.push(p);
    });
    this.#behind = behind;
    this.#turns = inTurn(jobs, model.firstPhase).order;
  }

  /** Every job as often as it has stretches, job after job. */
  whole(jobs: readonly number[]): number[] {
    return jobs.flatMap((j) => this.#stretches[j]!.slice(1).map(() => j));
  }

  /** Every job as often as it has stretches, those first after which most is left to do, waits included. */
  longestFirst(): number[] {
    const { phases, length, jobOf } = this.#model;
    const left = new Int32Array(phases);
    for (let i = phases - 1; i >= 0; i--) {
      const p = this.#turns[i]!;
      let most = p + 1 < phases && jobOf[p + 1] === jobOf[p] ? left[p + 1]! : 0;
      for (const q of this.#behind[p]!) most = Math.max(most, left[q]!);
      left[p] = most + length[p]!;
    }
    return this.#stretches
      .flatMap((starts, j) => starts.slice(0, -1).map((p) => ({ j, left: left[p]! })))
      .sort((a, b) => b.left - a.left || a.j - b.j)
      .map(({ j }) => j);
  }

  /**
   * @param order jobs, each as often as it has stretches: the second time a job comes its second stretch is placed
   * @param latest gives up as soon as work ends later
   * @returns null when a stretch finds no place
   */
  insert(order: readonly number[], latest = FAR): Placement | null {
    for (const profile of this.#people) profile.clear();
    for (const profile of this.#held) profile.clear();
    this.#placed.fill(0);
    this.#asked.fill(0);
    this.#isBusy.fill(0);
    if (!this.#putBegun()) return null;
    for (const j of this.#begun)
      for (let k = 1; k < this.#stretches[j]!.length; k++) if (!this.#putUpTo(j, k, latest)) return null;
    for (const j of order) if (!this.#isBegun[j] && !this.#putUpTo(j, ++this.#asked[j]!, latest)) return null;
    return measure(this.#model, this.#start.slice(), this.#end.slice(), this.#technician.slice());
  }

  /** Work that has begun is where it is: with who began it, else with whoever is free. */
  #putBegun(): boolean {
    const { earliest, startPoint, length } = this.#model;
    for (const { phase, by } of this.#fixed) {
      const at = earliest[startPoint[phase]!]!;
      const isFree = (t: number): boolean => this.#people[t]!.firstFree(at, length[phase]!, 0) === at;
      const t = by >= 0 ? (isFree(by) ? by : -1) : this.#people.findIndex((_, one) => isFree(one));
      if (t < 0) return false;
      this.#technician[phase] = t;
      this.#people[t]!.take(at, at + length[phase]!, 1);
      for (const { resource, count } of this.#uses[phase]!) {
        if (this.#held[resource]!.firstFree(at, length[phase]!, this.#capacity[resource]! - count) !== at) return false;
        this.#held[resource]!.take(at, at + length[phase]!, count);
      }
    }
    return true;
  }

  /** Places stretches of a job until so many stand, and before each what it comes after. */
  #putUpTo(j: number, count: number, latest: number): boolean {
    while (this.#placed[j]! < count) if (!this.#putAfter(j, latest) || !this.#put(j, latest)) return false;
    return true;
  }

  /** Places what the next stretch of a job comes after, as far as it does not stand. */
  #putAfter(j: number, latest: number): boolean {
    const { jobOf, firstPhase } = this.#model;
    const starts = this.#stretches[j]!;
    const next = this.#placed[j]!;
    if (this.#isBusy[j]) return false;
    this.#isBusy[j] = 1;
    for (let p = starts[next]!; p < starts[next + 1]!; p++)
      for (const q of this.#after[p]!) {
        const k = jobOf[q]!;
        if (k === j) continue;
        // A wait ends with the start of what is behind it: that has to stand too.
        const known = this.#model.isHands[q] || q + 1 === firstPhase[k + 1] ? q : q + 1;
        let stretch = 0;
        while (this.#stretches[k]![stretch + 1]! <= known) stretch++;
        if (!this.#putUpTo(k, stretch + 1, latest)) return false;
      }
    this.#isBusy[j] = 0;
    return true;
  }

  /** Places the next stretch of a job. */
  #put(j: number, latest: number): boolean {
    const { isHands } = this.#model;
    const starts = this.#stretches[j]!;
    const from = starts[this.#placed[j]!]!;
    const to = starts[++this.#placed[j]!]!;
    if (!this.#place(j, from, to, latest)) return false;
    for (let p = from; p < to; p++) {
      if (this.#isFixed[p]) continue;
      const [start, end] = [this.#start[p]!, this.#end[p]!];
      if (isHands[p]) this.#people[this.#technician[p]!]!.take(start, end, 1);
      for (const { resource, count } of this.#uses[p]!) this.#held[resource]!.take(start, end, count);
    }
    return true;
  }

  /**
   * Earliest times of one stretch around what is busy. Every rule that is broken moves a start later by the least that mends
   * it; starts only grow, so the first point at which nothing is broken is the earliest of all.
   */
  #place(j: number, first: number, after: number, latestEnd: number): boolean {
    const model = this.#model;
    const { phases, deadline = FAR } = model.problem.jobs[j]!;
    const begin = model.firstPhase[j]!;
    const start = this.#start;
    const onTime = this.#beginAt(j, first, after);
    for (let p = first; p < after;) {
      const isWait = !model.isHands[p];
      const before = p > first ? phases[p - 1 - begin]! : null;
      // The start of a wait is the end of what comes before it; other work may start at any time after.
      const from = before ? Math.max(start[p]!, start[p - 1]! + before.minutes) : start[p]!;
      const least = from + model.length[p]!;
      const needed = isWait
        ? this.#roomFor(p, from, p === after - 1 ? least : Math.max(least, start[p + 1]!))
        : this.#handsFrom(p, from);
      if (needed > model.latest[model.startPoint[p]!]! + model.startOffset[p]! || needed >= FAR) return false;
      if (p === first && needed > onTime) return false;
      if (!isWait && needed + model.length[p]! > latestEnd) return false;
      start[p] = needed;
      const earlier = before ? this.#movedBefore(p, before) : start[p - 1]!;
      if (before && earlier > start[p - 1]!) {
        start[p - 1] = earlier;
        p--;
      } else p++;
    }
    if (first > begin && !model.isHands[first - 1]) this.#end[first - 1] = start[first]!;
    for (let p = first; p < after; p++) {
      const goesOn = !model.isHands[p] && p + 1 < after;
      this.#end[p] = goesOn ? start[p + 1]! : start[p]! + model.length[p]!;
      if (this.#end[p]! > deadline) return false;
    }
    return true;
  }

  /**
   * Starts of a stretch as early as its own bounds and what stands before it allow.
   *
   * @returns when its first phase has to start at the latest
   */
  #beginAt(j: number, first: number, after: number): number {
    const { firstPhase, isHands, length, jobOf, earliest, startPoint, startOffset } = this.#model;
    const start = this.#start;
    for (let p = first; p < after; p++) {
      let at = earliest[startPoint[p]!]! + startOffset[p]!;
      for (const q of this.#after[p]!) if (jobOf[q] !== j) at = Math.max(at, this.#end[q]!);
      start[p] = at;
    }
    if (first > firstPhase[j]!) {
      // After the stretch before it: an open wait goes on until this one begins.
      const ended = start[first - 1]! + length[first - 1]!;
      if (start[first]! < ended) start[first] = ended;
      return FAR;
    }
    // A first wait begins with what it comes after, no later.
    return !isHands[first] && (this.#after[first]?.length ?? 0) > 0 ? start[first]! : FAR;
  }

  /** Where what goes before a phase has to start, now that the phase starts where it does. */
  #movedBefore(p: number, before: Phase): number {
    const start = this.#start;
    const [at, earlier] = [start[p]!, start[p - 1]!];
    if (before.kind === "hands")
      // A wait cannot start later than what it follows ends: that moves too.
      return this.#model.isHands[p] ? earlier : at - before.minutes;
    if (before.maxMinutes !== undefined && at - earlier > before.maxMinutes) return at - before.maxMinutes;
    // Its end is this start: what it holds must be free until then.
    return this.#roomFor(p - 1, earlier, at);
  }

  /** First time at which somebody and everything that the phase uses are free. */
  #handsFrom(p: number, from: number): number {
    if (this.#isFixed[p]) return from;
    const minutes = this.#model.length[p]!;
    for (let needed = from; ;) {
      const at = this.#freeTechnician(p, needed);
      if (at >= FAR || minutes === 0) return at;
      needed = this.#roomFor(p, at, at + minutes);
      if (needed === at || needed >= FAR) return needed;
    }
  }

  /** First time at which a technician may and can do a phase; who that is stands in `#technician`. */
  #freeTechnician(p: number, from: number): number {
    const model = this.#model;
    let best = FAR;
    for (let t = 0; t < this.#people.length; t++) {
      if (model.distinct && !(model.mayDo[p]! & (1 << t))) continue;
      const spans = model.mayStart[p]![model.distinct ? t : 0] ?? null;
      for (let at = from; at < best;) {
        const open = openAt(spans, at);
        const free = open >= FAR ? FAR : this.#people[t]!.firstFree(open, model.length[p]!, 0);
        if (free === open) {
          if (open >= best) break;
          best = open;
          this.#technician[p] = t;
          break;
        }
        at = free;
      }
      if (best === from) break;
    }
    return best;
  }

  /** First start from which what the phase uses is free until `end` (or as long after, when it moves). */
  #roomFor(p: number, from: number, end: number): number {
    const uses = this.#uses[p]!;
    if (uses.length === 0) return from;
    const span = end - from;
    for (let at = from; ;) {
      let moved = at;
      for (const { resource, count } of uses)
        moved = Math.max(
          moved,
          this.#held[resource]!.firstFree(moved, Math.max(span, end - moved), this.#capacity[resource]! - count),
        );
      if (moved === at || moved >= FAR) return moved;
      at = moved;
    }
  }
}

/** One attempt, job after job; see {@link JobInserter}. */
export function insertJobs(model: VisitModel, jobs: readonly number[]): Placement | null {
  const inserter = new JobInserter(model);
  return inserter.insert(inserter.whole(jobs));
}

/**
 * Phases at which a job's stretches begin, and one behind the last: behind work that other work follows at any time, and
 * behind an open wait that holds nothing (which then goes with what is before it).
 */
function stretchesOf(phases: readonly Phase[], first: number): number[] {
  const starts = [first];
  phases.forEach((phase, p) => {
    const before = phases[p - 1];
    if (p === 0 || phase.kind !== "hands") return;
    const open =
      before?.kind === "hands" ||
      (before?.kind === "wait" &&
        before.maxMinutes === undefined &&
        (before.uses ?? []).length === 0 &&
        phases[p - 2]?.kind === "hands");
    if (open) starts.push(first + p);
  });
  return [...starts, first + phases.length];
}

function usesOf(phase: Phase, numberOf: ReadonlyMap<string, number>): Use[] {
  const counts = new Map<number, number>();
  for (const id of phase.uses ?? []) counts.set(numberOf.get(id)!, (counts.get(numberOf.get(id)!) ?? 0) + 1);
  return [...counts].map(([resource, count]) => ({ resource, count }));
}

function openAt(spans: Int32Array | null, time: number): number {
  if (spans === null) return time;
  for (let i = 0; i < spans.length; i += 2) if (time <= spans[i + 1]!) return Math.max(time, spans[i]!);
  return FAR;
}
