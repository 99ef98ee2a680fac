/** What a search may spend. */
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

  constructor(options: EffortLimits) {
    // The only clock in the core, and only to stop: what is found by then does not depend on it when a node limit is given.
    this.now = options.now ?? (() => performance.now());
    this.nodeLimit = options.nodeLimit ?? Infinity;
    this.timeLimit = options.timeLimitMs ?? (options.nodeLimit === undefined ? DEFAULT_MS : Infinity);
    this.endsAt = this.timeLimit === Infinity ? Infinity : this.now() + this.timeLimit;
  }

  /** Counts a step. False: time or nodes are used up. */
  step(count = 1): boolean {
    const before = this.nodes;
    this.nodes += count;
    if (this.nodes > this.nodeLimit) this.stopped = true;
    else if (
      this.endsAt !== Infinity &&
      Math.floor(before / CLOCK_STEPS) !== Math.floor(this.nodes / CLOCK_STEPS) &&
      this.now() >= this.endsAt
    )
      this.stopped = true;
    return !this.stopped;
  }

  /** From now on at most this share of the whole time. */
  shorten(share: number): void {
    if (this.endsAt !== Infinity) this.endsAt = Math.min(this.endsAt, this.now() + share * this.timeLimit);
  }

  stop(): void {
    this.stopped = true;
  }
}
