import { requireRecord, withoutNulls } from "./inputs";
import { requireNotNegative } from "./numbers";

/** What a search may spend; null counts as absent. */
export interface EffortLimits {
  timeLimitMs?: number;
  nodeLimit?: number;
  now?: () => number;
}

const DEFAULT_MS = 5000;
/** Steps between two looks at the clock. */
const CLOCK_STEPS = 32;

/** What the search may spend: nodes, time, and the caller's patience. */
export class Effort {
  nodes = 0;
  stopped = false;
  private readonly nodeLimit: number;
  private endsAt: number;
  private readonly timeLimit: number;
  private readonly now: () => number;
  private readonly clockSteps: number;

  /**
   * @param clockSteps steps between two looks at the clock: one where a step is long
   * @throws CoreError unless limits are finite and not negative
   */
  constructor(options: EffortLimits, clockSteps = CLOCK_STEPS) {
    this.clockSteps = clockSteps;
    const { now, nodeLimit, timeLimitMs } = withoutNulls(requireRecord(options, "options"));
    // The only clock in the core, and only to stop: what is found by then does not depend on it when a node limit is given.
    this.now = now ?? (() => performance.now());
    this.nodeLimit = nodeLimit === undefined ? Infinity : requireNotNegative(nodeLimit, "nodeLimit");
    this.timeLimit =
      timeLimitMs === undefined
        ? nodeLimit === undefined
          ? DEFAULT_MS
          : Infinity
        : requireNotNegative(timeLimitMs, "timeLimitMs");
    this.endsAt = this.timeLimit === Infinity ? Infinity : this.now() + this.timeLimit;
  }

  /** Counts a step. False: time or nodes are used up. */
  step(count = 1): boolean {
    const before = this.nodes;
    this.nodes += count;
    if (this.nodes > this.nodeLimit) this.stopped = true;
    else if (
      this.endsAt !== Infinity &&
      Math.floor(before / this.clockSteps) !== Math.floor(this.nodes / this.clockSteps) &&
      this.now() >= this.endsAt
    )
      this.stopped = true;
    return !this.stopped;
  }

  /** A part of this effort: so many nodes, counted apart, and no later an end. */
  atMost(nodes: number): Effort {
    const part = new Effort({ nodeLimit: nodes, now: this.now }, this.clockSteps);
    part.endsAt = this.endsAt;
    return part;
  }

  /** Looks at the clock now. False: time or nodes are used up. */
  look(): boolean {
    if (!this.stopped && this.endsAt !== Infinity && this.now() >= this.endsAt) this.stopped = true;
    return !this.stopped;
  }

  /** How much of what may be spent is spent, 0 to 1: by nodes when these are limited, so that it does not depend on the clock. */
  spent(): number {
    if (this.nodeLimit !== Infinity) return this.nodeLimit === 0 ? 1 : Math.min(1, this.nodes / this.nodeLimit);
    return this.timeLimit === 0 ? 1 : Math.min(1, 1 - (this.endsAt - this.now()) / this.timeLimit);
  }

  /** From now on at most this share of the whole time. */
  shorten(share: number): void {
    if (this.endsAt !== Infinity) this.endsAt = Math.min(this.endsAt, this.now() + share * this.timeLimit);
  }

  stop(): void {
    this.stopped = true;
  }
}

/** Thrown where work that cannot be left half done is left because the time is up. */
export class OutOfTime extends Error {}
