import { inSlices } from "./in-slices";

it("goes through everything in its order, and lets others in between", async () => {
  const seen: number[] = [];
  let others = 0;
  const timer = setInterval(() => (others += 1), 1);
  await inSlices([1, 2, 3, 4, 5, 6], (one) => {
    seen.push(one);
    const until = performance.now() + 25;
    while (performance.now() < until);
  });
  clearInterval(timer);
  expect(seen).toEqual([1, 2, 3, 4, 5, 6]);
  expect(others).toBeGreaterThanOrEqual(4);
});

it("ends with the fault of the one that failed", async () => {
  const seen: number[] = [];
  const failing = inSlices([1, 2, 3], (one) => {
    if (one === 2) throw new Error("two");
    seen.push(one);
  });
  await expect(failing).rejects.toThrow("two");
  expect(seen).toEqual([1]);
});
