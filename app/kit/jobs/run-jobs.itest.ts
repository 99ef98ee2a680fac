import { must } from "@core";
import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { dropLease } from "~/kit/server/leases.server";
import { addActor, closeDatabase, freshDatabase } from "~/testing/database";

import { askFor, askOnce, clearOldJobs, jobOf, jobsOf, openJobsOfOthers, readFile, stopJob } from "./jobs.server";
import { type JobKind, runJobs } from "./run-jobs.server";

const NOW = new Date("2026-06-10T09:00:00Z");
let ada: Actor;
let bo: Actor;
let lead: Actor;

beforeEach(async () => {
  await freshDatabase();
  [ada, bo, lead] = [await addActor("Ada"), await addActor("Bo"), await addActor("Lea", "lead")];
});
afterAll(closeDatabase);

const ask = (who: Actor, kind = "count", upTo = 4): Promise<string> =>
  askFor(who, { kind, title: "Count", what: { upTo }, total: upTo }, NOW);

/** Counts in steps, and writes each number down. */
function counting(seen: string[] = [], before: (n: number) => Promise<void> | void = () => undefined): JobKind {
  return async (job) => {
    const n = ((job.kept as { n: number } | null)?.n ?? 0) + 1;
    await before(n);
    seen.push(`${job.id} ${n}`);
    const { upTo } = job.what as { upTo: number };
    return {
      kept: { n },
      done: n,
      total: upTo,
      pieces: [{ name: "numbers.txt", seq: n - 1, bytes: Buffer.from(`${n};`) }],
      finished: n === upTo,
    };
  };
}

const text = async (id: string): Promise<string> => new Response(readFile(id, "numbers.txt")).text();

it("does what was asked for, the oldest first, and keeps what it made", async () => {
  const seen: string[] = [];
  const first = await ask(ada);
  const second = await ask(bo, "count", 2);
  expect(await runJobs({ count: counting(seen) }, "one")).toBe(2);
  expect(seen).toEqual([1, 2, 3, 4].map((n) => `${first} ${n}`).concat([1, 2].map((n) => `${second} ${n}`)));
  expect(await text(first)).toBe("1;2;3;4;");
  expect(await jobOf(ada, first)).toMatchObject({
    state: "done",
    done: 4,
    total: 4,
    files: [{ name: "numbers.txt", bytes: 8 }],
  });
  expect(await runJobs({ count: counting(seen) }, "one")).toBe(0);
});

it("is one process's at a time", async () => {
  const id = await ask(ada);
  const seen: string[] = [];
  const others: number[] = [];
  const kind = counting(seen, async () => void others.push(await runJobs({ count: counting(seen) }, "two")));
  await runJobs({ count: kind }, "one");
  expect(others).toEqual([0, 0, 0, 0]);
  expect(seen).toEqual([1, 2, 3, 4].map((n) => `${id} ${n}`));
});

it("is gone on with by another process where one hangs or has died: no step counts twice", async () => {
  const id = await ask(ada);
  let letGo = (): void => undefined;
  const hanging = new Promise<void>((resolve) => {
    letGo = resolve;
  });
  let hangs = (): void => undefined;
  const reached = new Promise<void>((resolve) => {
    hangs = resolve;
  });
  const first = runJobs(
    {
      count: counting([], (n) => {
        if (n !== 3) return undefined;
        hangs();
        return hanging;
      }),
    },
    "one",
  );
  await reached;
  const seen: string[] = [];
  expect(await runJobs({ count: counting(seen) }, "two")).toBe(0);
  await getDb().models.Lease.update({ heldUntil: new Date(Date.now() - 1) }, { where: { name: "jobs" } });
  expect(await runJobs({ count: counting(seen) }, "two")).toBe(1);
  expect(seen).toEqual([`${id} 3`, `${id} 4`]);
  letGo();
  expect(await first).toBe(0);
  expect(await text(id)).toBe("1;2;3;4;");
});

it("goes on from its last whole step after a stop of its process", async () => {
  const id = await ask(ada);
  const seen: string[] = [];
  let steps = 0;
  await runJobs({ count: counting(seen) }, "one", () => ++steps > 3);
  const half = must(await getDb().models.Job.findByPk(id, { raw: true }));
  expect(half.state).toBe("running");
  expect(half.done).toBeGreaterThan(0);
  expect(half.done).toBeLessThan(4);
  expect(await runJobs({ count: counting(seen) }, "two")).toBe(1);
  expect(seen).toEqual([1, 2, 3, 4].map((n) => `${id} ${n}`));
  expect(await text(id)).toBe("1;2;3;4;");
});

it("a process that lost the job writes nothing more", async () => {
  const id = await ask(ada);
  const kind = counting([], async (n) => {
    if (n !== 2) return;
    // Taken for dead meanwhile: another has done all of it.
    await dropLease("jobs", "one");
    await runJobs({ count: counting() }, "two");
  });
  await runJobs({ count: kind }, "one");
  expect(await text(id)).toBe("1;2;3;4;");
  expect(await jobOf(ada, id)).toMatchObject({ state: "done", done: 4 });
});

it("is stopped by whoever asked for it, between two steps, and nothing of it is kept", async () => {
  const id = await ask(ada);
  const seen: string[] = [];
  const kind = counting(seen, async (n) => {
    if (n === 2) await stopJob(ada, id, new Date());
  });
  await runJobs({ count: kind }, "one");
  expect(seen).toHaveLength(2);
  expect(await jobOf(ada, id)).toMatchObject({ state: "stopped", files: [] });
  expect(await getDb().models.JobPiece.count()).toBe(0);
  await stopJob(ada, id, new Date());
});

it("ends with the reason where it cannot be made, and after three unexpected failures", async () => {
  const quiet = jest.spyOn(console, "error").mockImplementation();
  const refused = await ask(ada, "refuse");
  const broken = await ask(ada, "break");
  const unknown = await ask(ada, "of-a-newer-version");
  const fine = await ask(ada);
  let tried = 0;
  const kinds: Record<string, JobKind> = {
    refuse: () => Promise.reject(new Refusal(422, "no", "Too much of it.")),
    break: () => Promise.reject(new Error(`broke ${++tried}`)),
    count: counting(),
  };
  await runJobs(kinds, "one");
  quiet.mockRestore();
  expect(tried).toBe(3);
  expect(await jobOf(ada, refused)).toMatchObject({ state: "failed", message: "Too much of it." });
  expect(await jobOf(ada, broken)).toMatchObject({
    state: "failed",
    message: expect.stringMatching(/went wrong on our side/) as string,
  });
  // A process of the version that knows how takes it up.
  expect(await jobOf(ada, unknown)).toMatchObject({ state: "waiting" });
  await runJobs({ "of-a-newer-version": counting() }, "newer");
  expect(await jobOf(ada, unknown)).toMatchObject({ state: "done" });
  expect(await jobOf(ada, fine)).toMatchObject({ state: "done" });
});

it("one that ends its process again and again is given up", async () => {
  const id = await ask(ada);
  await getDb().models.Job.update({ state: "running", runner: "dead", tries: 3 }, { where: { id } });
  const seen: string[] = [];
  await runJobs({ count: counting(seen) }, "one");
  expect(seen).toEqual([]);
  expect(await jobOf(ada, id)).toMatchObject({ state: "failed" });
});

it("is seen by whoever asked for it and by leads, and a person has five at once", async () => {
  const ids = await Promise.all(Array.from({ length: 5 }, () => ask(ada)));
  await expect(ask(ada)).rejects.toMatchObject({ status: 429 });
  await ask(bo);
  await expect(jobOf(bo, must(ids[0]))).rejects.toMatchObject({ status: 404 });
  await expect(stopJob(bo, must(ids[0]), NOW)).rejects.toMatchObject({ status: 404 });
  expect(await jobOf(lead, must(ids[0]))).toMatchObject({ state: "waiting" });
  expect(await jobsOf(bo)).toHaveLength(1);
});

it("two that are asked for at once are not both the last that may wait", async () => {
  for (let i = 0; i < 4; i++) await ask(ada);
  const both = await Promise.allSettled([ask(ada), ask(ada), ask(ada)]);
  expect(both.filter((one) => one.status === "fulfilled")).toHaveLength(1);
});

it("is let go of after a week", async () => {
  const id = await ask(ada);
  await runJobs({ count: counting() }, "one");
  await clearOldJobs(new Date(Date.now() + 6 * 86_400_000));
  expect((await jobOf(ada, id)).files).toHaveLength(1);
  await clearOldJobs(new Date(Date.now() + 8 * 86_400_000));
  await expect(jobOf(ada, id)).rejects.toMatchObject({ status: 404 });
  expect(await getDb().models.JobPiece.count()).toBe(0);
});

it("what is quick does not wait behind what takes long", async () => {
  const long = await ask(ada, "count", 2);
  const quick = await ask(bo, "quick", 1);
  const seen: string[] = [];
  const meanwhile = counting(seen, async (n) => {
    if (n > 1) return;
    // The long one is held by its process all the while.
    expect(await runJobs({ count: counting(seen) }, "two")).toBe(0);
    expect(await runJobs({ quick: counting(seen) }, "two", () => false, "quick jobs")).toBe(1);
  });
  expect(await runJobs({ count: meanwhile }, "one")).toBe(1);
  expect(seen).toEqual([`${quick} 1`, `${long} 1`, `${long} 2`]);
});

it("a lead sees what is worked on for others and by the app itself, the next first", async () => {
  const own = await ask(lead);
  const adas = await ask(ada);
  const nobodys = await askOnce({ kind: "count", title: "Everything", what: { upTo: 3 } }, new Date(NOW.getTime() + 1));
  const ended = await ask(bo, "other", 1);
  await runJobs({ other: counting() }, "one");
  expect((await openJobsOfOthers(lead)).map(({ id, askedByName }) => [id, askedByName])).toEqual([
    [adas, "Ada"],
    [nobodys, null],
  ]);
  expect((await openJobsOfOthers(ada)).map(({ id }) => id)).toEqual([own, nobodys]);
  expect(ended).not.toBe(own);
});
