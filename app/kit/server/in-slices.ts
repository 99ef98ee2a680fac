/** As long as the process may be held at a time. */
const SLICE_MS = 20;

/** Goes through many things without holding the process: what others ask for is answered in between. */
export async function inSlices<Item>(items: readonly Item[], each: (item: Item) => void): Promise<void> {
  let until = performance.now() + SLICE_MS;
  for (const item of items) {
    each(item);
    if (performance.now() < until) continue;
    await new Promise((resolve) => setImmediate(resolve));
    until = performance.now() + SLICE_MS;
  }
}
