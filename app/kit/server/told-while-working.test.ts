import { Refusal } from "~/kit/refusal";

import { linesOf, type Told } from "../read-progress";
import { toldWhileWorking } from "./told-while-working.server";

async function told(response: Response): Promise<Told<unknown>[]> {
  const lines: Told<unknown>[] = [];
  if (response.body) for await (const line of linesOf(response.body)) lines.push(line);
  return lines;
}

it("tells how far it is, then what came out, or in words why nothing did", async () => {
  const response = toldWhileWorking((progress) => {
    progress(1, 2);
    progress(2, 2);
    return Promise.resolve({ days: 3 });
  });
  // Packed together, lines would come at the end.
  expect(response.headers.get("Cache-Control")).toContain("no-transform");
  expect(await told(response)).toEqual([{ done: 1, total: 2 }, { done: 2, total: 2 }, { result: { days: 3 } }]);
  const refused = toldWhileWorking(() => Promise.reject(new Refusal(429, "busy", "Try again in a minute.")));
  expect(await told(refused)).toEqual([{ fault: "Try again in a minute." }]);
});

it("ends the work when nobody waits for it any more", async () => {
  let went = 0;
  let goOn = (): void => {};
  const wait = new Promise<void>((resolve) => (goOn = resolve));
  const response = toldWhileWorking(async (progress) => {
    progress(++went, 3);
    await wait;
    progress(++went, 3);
    went++;
    return null;
  });
  await response.body?.cancel();
  goOn();
  await wait;
  await Promise.resolve();
  expect(went).toBe(2);
});
