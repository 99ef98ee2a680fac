import { FAR } from "./model";

/** How much of one thing (a pair of hands, a sink) is taken at which time: a step function, equal steps joined. */
export class Profile {
  /** Where each step begins; the first lies before all. */
  readonly #times: number[] = [-2 * FAR];
  readonly #levels: number[] = [0];

  clear(): void {
    this.#times.length = 1;
    this.#levels.length = 1;
  }

  copyFrom(other: Profile): void {
    const n = other.#times.length;
    this.#times.length = n;
    this.#levels.length = n;
    for (let i = 0; i < n; i++) {
      this.#times[i] = other.#times[i]!;
      this.#levels[i] = other.#levels[i]!;
    }
  }

  /** First time from `at` on from which never more than `most` is taken for `length` minutes; `FAR` when there is none. */
  firstFree(at: number, length: number, most: number): number {
    if (length <= 0) return at;
    if (most < 0) return FAR;
    const times = this.#times;
    const levels = this.#levels;
    const n = times.length;
    let i = this.#stepAt(at);
    for (;;) {
      let full = i;
      while (full < n && times[full]! < at + length && levels[full]! <= most) full++;
      if (full >= n || times[full]! >= at + length) return at;
      i = full + 1;
      while (i < n && levels[i]! > most) i++;
      if (i >= n) return FAR;
      at = times[i]!;
    }
  }

  /** Takes `count` more from `from` to before `to`. */
  take(from: number, to: number, count: number): void {
    if (to <= from) return;
    const first = this.#cut(from);
    const end = this.#cut(to);
    for (let i = first; i < end; i++) this.#levels[i]! += count;
    this.#join(end);
    this.#join(first);
  }

  /** The last step that begins at or before a time. */
  #stepAt(time: number): number {
    let low = 0;
    let high = this.#times.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.#times[middle]! <= time) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /** The step that begins at a time, made when there is none. */
  #cut(time: number): number {
    const i = this.#stepAt(time);
    if (this.#times[i] === time) return i;
    this.#times.splice(i + 1, 0, time);
    this.#levels.splice(i + 1, 0, this.#levels[i]!);
    return i + 1;
  }

  #join(i: number): void {
    if (i === 0 || this.#levels[i] !== this.#levels[i - 1]) return;
    this.#times.splice(i, 1);
    this.#levels.splice(i, 1);
  }
}
