import type { RandomGenerator } from "pure-rand/types/RandomGenerator";

import { must } from "./must";

/** A list mixed in place. */
export function shuffled<T>(list: T[], random: () => number): T[] {
  for (let i = list.length - 1; i > 0; i--) {
    const k = Math.floor(random() * (i + 1));
    [list[i], list[k]] = [must(list[k]), must(list[i])];
  }
  return list;
}

/** Numbers from 0 to below 1. */
export function uniform(generator: RandomGenerator): () => number {
  return () => (generator.next() >>> 0) / 0x100000000;
}
