import { v7 as uuidv7 } from "uuid";

/** The two clocks of a device at one moment: the one people set, and the one that only runs. */
export interface Tick {
  wall: number;
  steady: number;
}

/** When something was logged, by the clocks of the page that was open; the steady clock begins anew with each. */
export interface Stamp extends Tick {
  page: string;
}

/** A moment at which the server's time was known. */
export interface Anchor extends Tick {
  server: number;
}

/** Both clocks run alike but for this. */
const RUN_ALIKE_MS = 2_000;
/** A device that is off by less keeps its own time: answers take a moment, a page that comes up some seconds. */
const NO_WRONG_CLOCK_MS = 3_000;
const UNDER_WAY_MS = 10_000;

/**
 * Time at the server, from where it was last known.
 *
 * A device whose two clocks run on alike is trusted. While a page was out of sight the steady clock may have stood still, as
 * it does in a phone that sleeps: then the other counts, so that a soak has its true length. In any other case somebody set
 * the clock: the steady one counts, and the time is not certain.
 *
 * @param outOfSight whether the page was hidden at any time since the anchor
 */
export function timeAfter(anchor: Anchor, tick: Tick, outOfSight: boolean): { at: number; certain: boolean } {
  const wall = tick.wall - anchor.wall;
  const steady = tick.steady - anchor.steady;
  const alike = Math.abs(wall - steady) <= RUN_ALIKE_MS + steady / 1000;
  const slept = outOfSight && wall > steady;
  return { at: Math.round(anchor.server + (alike || slept ? wall : steady)), certain: alike || slept };
}

/** What the server said its time was, heard at a moment. */
export function anchorOf(server: number, tick: Tick, within = NO_WRONG_CLOCK_MS): Anchor {
  return { ...tick, server: Math.abs(server - tick.wall) <= within ? tick.wall : server };
}

/** An answer that took longer says too little about the time. */
const QUICK_MS = 5_000;
const TIME_HEADER = "X-Server-Time";

const PAGE = uuidv7();

const tickNow = (): Tick => ({ wall: Date.now(), steady: performance.now() });

/** The server's time on this page, anchored when it comes up, by every answer, and whenever it is seen again. */
class ServerClock {
  #anchor: Anchor | null = null;
  #outOfSight = false;

  /** What the page itself came with. */
  begin(serverNow: number): void {
    if (this.#anchor || serverNow === 0) return;
    this.#anchor = anchorOf(serverNow, tickNow(), UNDER_WAY_MS);
    document.addEventListener("visibilitychange", this.#seen);
    document.addEventListener("resume", this.#ask);
    window.addEventListener("online", this.#ask);
    // A page that was left and is gone back to.
    window.addEventListener("pageshow", this.#ask);
  }

  now(): { at: number; certain: boolean } {
    const tick = tickNow();
    return this.#anchor ? timeAfter(this.#anchor, tick, this.#outOfSight) : { at: tick.wall, certain: true };
  }

  /** What an entry keeps, so that its time can be put right once the server's is known. */
  stamp(): Stamp {
    return { ...tickNow(), page: PAGE };
  }

  /** Time at the server when an entry was stamped: by the steady clock on the page it was stamped on, else by the other. */
  timeOf(stamp: Stamp): number {
    const tick = tickNow();
    const { at } = this.now();
    return Math.round(at - (stamp.page === PAGE ? tick.steady - stamp.steady : Math.max(0, tick.wall - stamp.wall)));
  }

  /** An answer tells the time: half-way between asking and hearing. */
  hear(answer: Response, asked: Tick): void {
    const server = Number(answer.headers.get(TIME_HEADER));
    const tick = tickNow();
    const took = tick.steady - asked.steady;
    if (!(server > 0) || took > QUICK_MS) return;
    this.#anchor = anchorOf(server + took / 2, tick);
    this.#outOfSight = document.visibilityState === "hidden";
  }

  readonly #seen = (): void => {
    if (document.visibilityState === "hidden") this.#outOfSight = true;
    else this.#ask();
  };

  readonly #ask = (): void => {
    // Its answer is heard as every other.
    void fetch("/healthz", { cache: "no-store", signal: AbortSignal.timeout(QUICK_MS) }).catch(() => undefined);
  };
}

export const serverClock = new ServerClock();

/** A fetch that hears the time in every answer of this server. */
export function hearTime(plainFetch: typeof fetch): typeof fetch {
  return async (input, init) => {
    const asked = tickNow();
    const answer = await plainFetch(input, init);
    if (new URL(answer.url || window.location.href, window.location.href).origin === window.location.origin)
      serverClock.hear(answer, asked);
    return answer;
  };
}
