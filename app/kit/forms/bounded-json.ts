import { Refusal } from "~/kit/refusal";

/** Refuses what came as JSON when there is more in it, or it goes deeper, than anything that is meant: before it is checked. */
export function boundedJson(value: unknown, most: number, deepest = 16): void {
  const open: [unknown, number][] = [[value, 1]];
  let count = 0;
  for (let next = open.pop(); next; next = open.pop()) {
    const [one, depth] = next;
    count += 1;
    if (count > most || depth > deepest) throw tooMuch();
    if (one === null || typeof one !== "object") continue;
    const inner: unknown[] = Object.values(one);
    if (inner.length > most) throw tooMuch();
    for (const each of inner) open.push([each, depth + 1]);
  }
}

const tooMuch = (): Refusal =>
  new Refusal(413, "too-much", "There is more in this than anything of its kind has. Nothing was kept.");
