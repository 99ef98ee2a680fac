import { OutOfTime } from "../effort";
import { FIRST_BEFORE, HOLDS, NOT_FIRST_BEFORE, NOT_SECOND_BEFORE, SECOND_BEFORE, UNDECIDED } from "./decided";
import { pushFirstWaits, stateOf } from "./first-waits";
import { groupsOfPhases, phasesOfPoints, roomForTasks } from "./lookups";
import type { VisitModel } from "./model";
import { buildPairs, NEVER_TOGETHER, type PairTable, SAME_TECHNICIAN } from "./pairs";
import { pushCumulative } from "./push-cumulative";
import { pushDisjunctive, type Tasks } from "./push-disjunctive";
import { nextStart, previousStart } from "./starts";

/**
 * Earliest and latest times of every point, kept consistent with all bounds and with what is decided so far, and undone in
 * the reverse order of deciding. Earliest times that no rule objects to *are* the earliest schedule of the decisions taken.
 */
export class Network {
  readonly pairs: PairTable;
  /** Earliest and latest times, technicians' bits, what waits hold, states of pairs, what first waits do not begin with, in this order; everything that is undone. */
  readonly state: Int32Array;
  readonly latestAt: number;
  readonly mayDoAt: number;
  readonly holdsAt: number;
  readonly pairAt: number;
  readonly startsWithAt: number;
  /** How often a pair, and a group, ended in a contradiction: such are decided first. */
  readonly pairWeight: Float64Array;
  /** The pair or group behind the last contradiction; −1 when none. */
  private culpritPair = -1;

  private readonly trailIndex: number[] = [];
  private readonly trailValue: number[] = [];
  private readonly marks: number[] = [];
  private edgeCount = 0;
  private readonly edgeFrom: number[] = [];
  private readonly edgeTo: number[] = [];
  private readonly edgeWeight: number[] = [];
  private readonly edgePair: number[] = [];
  private readonly nextOut: number[] = [];
  private readonly nextIn: number[] = [];
  private readonly headOut: Int32Array;
  private readonly headIn: Int32Array;
  private readonly queue: number[] = [];
  private readonly queued: Uint8Array;
  private readonly touched: number[] = [];
  private readonly isTouched: Uint8Array;
  private readonly groupsOf: Int32Array[];
  private readonly groupDirty: Uint8Array;
  private readonly tasksOfPoint: Int32Array[];
  private readonly tasks: Tasks;

  /** @param goesOn asked on the way through long work; once it says no, `OutOfTime` is thrown and the network of no more use */
  constructor(
    readonly model: VisitModel,
    private readonly goesOn: () => boolean = () => true,
  ) {
    const { points, phases } = model;
    this.pairs = buildPairs(model);
    this.latestAt = points;
    this.mayDoAt = 2 * points;
    this.holdsAt = this.mayDoAt + phases;
    this.pairAt = this.holdsAt + phases;
    this.startsWithAt = this.pairAt + this.pairs.count;
    this.state = new Int32Array(this.startsWithAt + stateOf(model.firstWaits));
    this.state.set(model.earliest, 0);
    this.state.set(model.latest, this.latestAt);
    this.state.set(model.mayDo, this.mayDoAt);
    this.state.fill(HOLDS, this.holdsAt, this.pairAt);
    for (const p of model.maybeEmpty) this.state[this.holdsAt + p] = UNDECIDED;
    this.pairWeight = new Float64Array(this.pairs.count).fill(1);
    this.headOut = new Int32Array(points).fill(-1);
    this.headIn = new Int32Array(points).fill(-1);
    this.queued = new Uint8Array(points);
    this.isTouched = new Uint8Array(phases);
    this.groupsOf = groupsOfPhases(model);
    this.groupDirty = new Uint8Array(model.groups.length);
    this.tasksOfPoint = phasesOfPoints(model);
    this.tasks = roomForTasks(model);
  }

  /** Puts the visit's own bounds and the horizon in force. False: nothing is possible. */
  start(horizon: number): boolean {
    for (const { from, to, weight } of this.model.edges) if (!this.addEdge(from, to, weight, -1)) return false;
    for (let v = 0; v < this.model.points; v++) {
      const hands = this.model.handsOf[v]!;
      if (this.state[v]! > this.state[this.latestAt + v]!) return false;
      if (hands >= 0 && !(this.fitStart(v, hands) && this.setLatest(v, horizon - this.model.length[hands]!, -1)))
        return false;
      this.enqueue(v);
    }
    for (let p = 0; p < this.model.phases; p++) this.touch(p);
    return this.propagate();
  }

  earliestStart(p: number): number {
    return this.state[this.model.startPoint[p]!]! + this.model.startOffset[p]!;
  }
  latestStart(p: number): number {
    return this.state[this.latestAt + this.model.startPoint[p]!]! + this.model.startOffset[p]!;
  }
  earliestEnd(p: number): number {
    return this.state[this.model.endPoint[p]!]! + this.model.endOffset[p]!;
  }
  latestEnd(p: number): number {
    return this.state[this.latestAt + this.model.endPoint[p]!]! + this.model.endOffset[p]!;
  }
  mayDo(p: number): number {
    return this.state[this.mayDoAt + p]!;
  }
  holds(p: number): number {
    return this.state[this.holdsAt + p]!;
  }
  pairState(k: number): number {
    return this.state[this.pairAt + k]!;
  }

  /** End of the last hands phase in the earliest times. */
  makespan(): number {
    let end = 0;
    for (let p = 0; p < this.model.phases; p++) if (this.model.isHands[p]) end = Math.max(end, this.earliestEnd(p));
    return end;
  }

  /** Whether one of the two has to end before the other starts, as far as is decided. */
  mustTakeTurns(k: number): boolean {
    const kind = this.pairs.kind[k]!;
    const [p, q] = [this.pairs.first[k]!, this.pairs.second[k]!];
    if (this.holds(p) !== HOLDS || this.holds(q) !== HOLDS) return false;
    if (kind & NEVER_TOGETHER) return true;
    if (!(kind & SAME_TECHNICIAN)) return false;
    const [a, b] = [this.mayDo(p), this.mayDo(q)];
    return a === b && (a & (a - 1)) === 0;
  }

  mark(): void {
    this.marks.push(this.trailIndex.length, this.edgeCount);
  }

  /** Back to the last mark. */
  undo(): void {
    const edges = this.marks.pop()!;
    const trail = this.marks.pop()!;
    while (this.trailIndex.length > trail) this.state[this.trailIndex.pop()!] = this.trailValue.pop()!;
    while (this.edgeCount > edges) {
      const e = --this.edgeCount;
      this.headOut[this.edgeFrom[e]!] = this.nextOut[e]!;
      this.headIn[this.edgeTo[e]!] = this.nextIn[e]!;
    }
    for (const v of this.queue) this.queued[v] = 0;
    this.queue.length = 0;
    for (const p of this.touched) this.isTouched[p] = 0;
    this.touched.length = 0;
    this.groupDirty.fill(0);
  }

  /** Remembers what led to a contradiction. */
  blame(): void {
    if (this.culpritPair >= 0) this.pairWeight[this.culpritPair]! += 1;
    this.culpritPair = -1;
  }

  /** Work must end by `end` everywhere. */
  limitMakespan(end: number): boolean {
    for (let v = 0; v < this.model.points; v++) {
      const hands = this.model.handsOf[v]!;
      if (hands >= 0 && !this.setLatest(v, end - this.model.length[hands]!, -1)) return false;
    }
    return this.propagate();
  }

  /** Decides of a pair: one of the four bits. False: contradiction. */
  decidePair(k: number, bit: number): boolean {
    return this.setPair(k, bit) && this.propagate();
  }

  /** Gives a phase to a technician, or rules one out. */
  decideTechnician(p: number, bit: number, take: boolean): boolean {
    return this.setMayDo(p, take ? bit : this.mayDo(p) & ~bit) && this.propagate();
  }

  /** Puts `p` before `q` whether or not they are a pair: for keeping a part of a known schedule. */
  keepBefore(p: number, q: number): boolean {
    const { startPoint, startOffset, endPoint, endOffset } = this.model;
    return this.addEdge(endPoint[p]!, startPoint[q]!, endOffset[p]! - startOffset[q]!, -1);
  }

  propagate(): boolean {
    for (;;) {
      if (!this.spread()) return false;
      if (this.touched.length > 0) {
        const p = this.touched.pop()!;
        this.isTouched[p] = 0;
        for (const g of this.groupsOf[p]!) this.groupDirty[g] = 1;
        for (const k of this.pairs.of[p]!) if (!this.lookAtPair(k)) return false;
        continue;
      }
      const g = this.groupDirty.indexOf(1);
      if (g < 0) {
        if (this.model.firstWaits.length === 0) return true;
        if (!pushFirstWaits(this)) return false;
        if (this.queue.length === 0) return true;
        continue;
      }
      if (!this.goesOn()) throw new OutOfTime();
      this.groupDirty[g] = 0;
      if (!this.lookAtGroup(g)) return false;
    }
  }

  save(index: number, value: number): void {
    this.trailIndex.push(index);
    this.trailValue.push(this.state[index]!);
    this.state[index] = value;
  }

  private enqueue(v: number): void {
    if (!this.queued[v]) this.queue.push(v);
    this.queued[v] = 1;
  }

  touch(p: number): void {
    if (!this.isTouched[p]) this.touched.push(p);
    this.isTouched[p] = 1;
  }

  private changed(v: number): void {
    this.enqueue(v);
    for (const p of this.tasksOfPoint[v]!) this.touch(p);
  }

  /** Raises a point's earliest time, into the next span where its work may start. */
  setEarliest(v: number, time: number, pair: number): boolean {
    if (time <= this.state[v]!) return true;
    const hands = this.model.handsOf[v]!;
    const at = hands < 0 ? time : nextStart(this.model.mayStart[hands]!, this.mayDo(hands), time);
    if (at > this.state[this.latestAt + v]!) {
      this.culpritPair = pair;
      return false;
    }
    this.save(v, at);
    this.changed(v);
    return true;
  }

  setLatest(v: number, time: number, pair: number): boolean {
    if (time >= this.state[this.latestAt + v]!) return true;
    const hands = this.model.handsOf[v]!;
    const at = hands < 0 ? time : previousStart(this.model.mayStart[hands]!, this.mayDo(hands), time);
    if (at < this.state[v]!) {
      this.culpritPair = pair;
      return false;
    }
    this.save(this.latestAt + v, at);
    this.changed(v);
    return true;
  }

  addEdge(from: number, to: number, weight: number, pair: number): boolean {
    const e = this.edgeCount++;
    this.edgeFrom[e] = from;
    this.edgeTo[e] = to;
    this.edgeWeight[e] = weight;
    this.edgePair[e] = pair;
    this.nextOut[e] = this.headOut[from]!;
    this.nextIn[e] = this.headIn[to]!;
    this.headOut[from] = e;
    this.headIn[to] = e;
    if (from === to) return weight <= 0;
    return (
      this.setEarliest(to, this.state[from]! + weight, pair) &&
      this.setLatest(from, this.state[this.latestAt + to]! - weight, pair)
    );
  }

  private spread(): boolean {
    const { state, latestAt } = this;
    while (this.queue.length > 0) {
      const v = this.queue.pop()!;
      this.queued[v] = 0;
      const earliest = state[v]!;
      for (let e = this.headOut[v]!; e >= 0; e = this.nextOut[e]!) {
        if (!this.setEarliest(this.edgeTo[e]!, earliest + this.edgeWeight[e]!, this.edgePair[e]!)) return false;
      }
      const latest = state[latestAt + v]!;
      for (let e = this.headIn[v]!; e >= 0; e = this.nextIn[e]!) {
        if (!this.setLatest(this.edgeFrom[e]!, latest - this.edgeWeight[e]!, this.edgePair[e]!)) return false;
      }
    }
    return true;
  }

  private setPair(k: number, bit: number): boolean {
    const before = this.pairState(k);
    if (before & bit) return true;
    const [p, q] =
      bit === FIRST_BEFORE || bit === NOT_FIRST_BEFORE
        ? [this.pairs.first[k]!, this.pairs.second[k]!]
        : [this.pairs.second[k]!, this.pairs.first[k]!];
    this.save(this.pairAt + k, before | bit);
    const { startPoint, startOffset, endPoint, endOffset } = this.model;
    const offset = endOffset[p]! - startOffset[q]!;
    if (bit === FIRST_BEFORE || bit === SECOND_BEFORE) return this.addEdge(endPoint[p]!, startPoint[q]!, offset, k);
    this.touch(p);
    return this.addEdge(startPoint[q]!, endPoint[p]!, 1 - offset, k);
  }

  private lookAtPair(k: number): boolean {
    const decided = this.pairState(k);
    if (decided & (FIRST_BEFORE | SECOND_BEFORE)) return true;
    const turns = this.mustTakeTurns(k);
    const byTechnician = (this.pairs.kind[k]! & SAME_TECHNICIAN) !== 0;
    if (!turns && !byTechnician) return true;
    const [p, q] = [this.pairs.first[k]!, this.pairs.second[k]!];
    const firstCan = !(decided & NOT_FIRST_BEFORE) && this.earliestEnd(p) <= this.latestStart(q);
    const secondCan = !(decided & NOT_SECOND_BEFORE) && this.earliestEnd(q) <= this.latestStart(p);
    if (turns) {
      if (!firstCan && !secondCan) {
        this.culpritPair = k;
        return false;
      }
      if (!firstCan) return this.setPair(k, SECOND_BEFORE);
      if (!secondCan) return this.setPair(k, FIRST_BEFORE);
      return true;
    }
    if (firstCan || secondCan) return true;
    // They overlap whatever happens: not the same technician.
    const [a, b] = [this.mayDo(p), this.mayDo(q)];
    if ((a & (a - 1)) === 0 && a & b && !this.setMayDo(q, b & ~a)) return false;
    if ((b & (b - 1)) === 0 && a & b && !this.setMayDo(p, a & ~b)) return false;
    return true;
  }

  private setMayDo(p: number, bits: number): boolean {
    if (bits === this.mayDo(p)) return true;
    if (bits === 0) return false;
    this.save(this.mayDoAt + p, bits);
    this.touch(p);
    return this.fitStart(this.model.startPoint[p]!, p);
  }

  /** Moves a start's bounds to where one of its technicians may begin it. */
  private fitStart(v: number, hands: number): boolean {
    const lists = this.model.mayStart[hands]!;
    const bits = this.mayDo(hands);
    const from = nextStart(lists, bits, this.state[v]!);
    const to = previousStart(lists, bits, this.state[this.latestAt + v]!);
    if (from > to) return false;
    if (from !== this.state[v]) {
      this.save(v, from);
      this.changed(v);
    }
    if (to !== this.state[this.latestAt + v]) {
      this.save(this.latestAt + v, to);
      this.changed(v);
    }
    return true;
  }

  private lookAtGroup(g: number): boolean {
    const group = this.model.groups[g]!;
    const { tasks } = this;
    const collect = (takes: (p: number) => boolean): void => {
      tasks.count = 0;
      group.tasks.forEach((p, i) => {
        if (this.holds(p) !== HOLDS || !takes(p)) return;
        const n = tasks.count++;
        tasks.phase[n] = p;
        tasks.est[n] = this.earliestStart(p);
        tasks.lct[n] = this.latestEnd(p);
        tasks.length[n] = this.model.isHands[p]
          ? this.model.length[p]!
          : Math.max(1, this.model.length[p]!, this.earliestEnd(p) - this.latestStart(p));
        tasks.demand[n] = group.demand[i]!;
      });
    };
    collect(() => true);
    const possible =
      group.capacity === 1
        ? pushDisjunctive(tasks, this.raise)
        : pushCumulative(tasks, group.capacity, (p) => [this.latestStart(p), this.earliestEnd(p)], this.raise);
    if (!possible) return false;
    if (!(this.model.distinct && g === 0 && group.capacity > 1)) return true;
    for (let t = 0; t < group.capacity; t++) {
      collect((p) => this.mayDo(p) === 1 << t);
      if (tasks.count > 1 && !pushDisjunctive(tasks, this.raise)) return false;
    }
    return true;
  }

  /** New bounds of a task in a group: not before `est`, ended by `lct`. */
  private readonly raise = (p: number, est: number, lct: number): boolean => {
    const { startPoint, startOffset, endPoint, endOffset } = this.model;
    return (
      this.setEarliest(startPoint[p]!, est - startOffset[p]!, -1) &&
      this.setLatest(endPoint[p]!, lct - endOffset[p]!, -1)
    );
  };
}
