import type { RunEvent } from "@core";
import { must } from "@core";

/** The outbox in a browser without a database (as in private windows): a fake server answers. */
type Answer = { status?: number; body?: unknown } | "cut";
let answers: ((ids: string[]) => Answer)[];
let posted: string[][];
let outbox: typeof import("./outbox").outbox;
const listeners = new Map<string, () => void>();

const taken = (ids: string[]): Answer => ({ body: { accepted: ids, refused: [] } });
let count = 0;
const entry = (by = "ada", sheetId = "run-1"): RunEvent => ({
  id: `event-${++count}`,
  runId: sheetId,
  at: "2026-11-24T09:00:00Z",
  by,
  device: "d",
  type: "note",
  text: "x",
});
const settled = async (): Promise<void> => {
  // The missing database fails through several promises of its own before each step goes on.
  for (let i = 0; i < 30; i++) await jest.advanceTimersByTimeAsync(0);
};

beforeEach(async () => {
  jest.useFakeTimers();
  jest.resetModules();
  answers = [];
  posted = [];
  listeners.clear();
  const on = {
    addEventListener: (name: string, listener: () => void) => listeners.set(name, listener),
    removeEventListener: () => undefined,
  };
  Object.assign(globalThis, { window: on, document: on });
  globalThis.fetch = ((_url: string, init: { body: string }) => {
    const ids = (JSON.parse(init.body) as { entries: RunEvent[] }).entries.map((one) => one.id);
    posted.push(ids);
    const answer = (answers.shift() ?? taken)(ids);
    if (answer === "cut") return Promise.reject(new TypeError("network"));
    const status = answer.status ?? 200;
    return Promise.resolve({
      ok: status < 400,
      status,
      json: () => ("body" in answer ? Promise.resolve(answer.body) : Promise.reject(new SyntaxError("no JSON"))),
    });
  }) as never;
  ({ outbox } = await import("./outbox"));
  await outbox.start("ada");
  await settled();
});
afterEach(() => {
  outbox.stop();
  jest.useRealTimers();
});

it("sends what is added and lets go of it when it is acknowledged", async () => {
  const one = entry();
  outbox.add([one]);
  expect(outbox.snapshot().waiting).toEqual([one]);
  await settled();
  expect(posted).toEqual([[one.id]]);
  expect(outbox.snapshot()).toMatchObject({ waiting: [], sent: [one], trouble: "none" });
});

it.each<[string, Answer]>([
  ["no connection", "cut"],
  ["a server that is down", { status: 503, body: { message: "down" } }],
  ["a server that is busy", { status: 429, body: { message: "wait" } }],
  ["an answer that was cut off", { status: 200 }],
  ["a proxy's page", { status: 404 }],
])("keeps everything and tries again after %s, later each time", async (_name, trouble) => {
  answers = [() => trouble, () => trouble];
  const one = entry();
  outbox.add([one]);
  await settled();
  expect(outbox.snapshot()).toMatchObject({ waiting: [one], refused: [], trouble: "offline" });
  await jest.advanceTimersByTimeAsync(1000);
  expect(posted).toHaveLength(2);
  await jest.advanceTimersByTimeAsync(1000);
  expect(posted).toHaveLength(2);
  await jest.advanceTimersByTimeAsync(1000);
  expect(posted).toHaveLength(3);
  expect(outbox.snapshot()).toMatchObject({ waiting: [], trouble: "none" });
});

it("tries at once when the connection is back", async () => {
  answers = [() => "cut"];
  outbox.add([entry()]);
  await settled();
  must(listeners.get("online"))();
  await settled();
  expect(outbox.snapshot().waiting).toEqual([]);
});

it("sets apart what is refused in so many words, and takes the rest", async () => {
  const [good, bad] = [entry(), entry()];
  answers = [
    () => ({
      body: { accepted: [good.id], refused: [{ id: bad.id, code: "id-taken", message: "It is there already." }] },
    }),
  ];
  outbox.add([good, bad]);
  await settled();
  expect(outbox.snapshot()).toMatchObject({
    waiting: [],
    sent: [good],
    refused: [{ id: bad.id, refusal: "It is there already." }],
  });
  await jest.advanceTimersByTimeAsync(60_000);
  expect(posted).toHaveLength(1);
  outbox.dismiss(bad.id);
  expect(outbox.snapshot().refused).toEqual([]);
});

const clockRefusal = (ids: string[], notBefore?: string): Answer => ({
  body: { accepted: [], refused: ids.map((id) => ({ id, code: "clock", message: "ahead", notBefore })) },
});

it("puts a time right that the server does not take, sends it again at once, and keeps what was told first", async () => {
  const one = entry();
  answers = [clockRefusal];
  outbox.add([one], { wall: Date.now(), steady: performance.now(), page: "another" });
  await settled();
  const [sent] = outbox.snapshot().sent;
  expect(posted).toHaveLength(2);
  expect(sent).toMatchObject({ id: one.id, uncertain: true, deviceAt: one.at });
  expect(Math.abs(Date.parse(must(sent).at) - Date.now())).toBeLessThan(60_000);
  expect(outbox.snapshot()).toMatchObject({ waiting: [], refused: [], trouble: "none" });
});

it("gives it no time before its sheet was opened", async () => {
  const notBefore = new Date(Date.now() + 3_600_000).toISOString();
  answers = [(ids) => clockRefusal(ids, notBefore)];
  outbox.add([entry()]);
  await settled();
  expect(must(outbox.snapshot().sent[0]).at).toBe(notBefore);
});

it("does not send again at once where the answer names nothing that it knows", async () => {
  answers = [() => clockRefusal(["another"])];
  outbox.add([entry()]);
  await settled();
  expect(posted).toHaveLength(1);
  expect(outbox.snapshot().trouble).toBe("clock");
});

it("waits for the clock where its time is the right one, and lets no other sheet wait behind it", async () => {
  const now = { ...entry(), at: new Date().toISOString() };
  const other = entry("ada", "run-2");
  answers = [clockRefusal];
  outbox.add([now], { wall: Date.now(), steady: performance.now(), page: "another" });
  outbox.add([other]);
  await settled();
  expect(outbox.snapshot()).toMatchObject({ waiting: [now], sent: [other], refused: [], trouble: "clock" });
  await jest.advanceTimersByTimeAsync(1000);
  expect(outbox.snapshot()).toMatchObject({ waiting: [], trouble: "none" });
});

it("lets no sheet wait behind one that the server cannot take", async () => {
  const [broken, other] = [entry(), entry("ada", "run-2")];
  answers = [() => ({ status: 500, body: null })];
  outbox.add([broken]);
  outbox.add([other]);
  await settled();
  expect(outbox.snapshot()).toMatchObject({ waiting: [broken], sent: [other], trouble: "offline" });
});

it("waits for the person to sign in again, and does not hammer the server meanwhile", async () => {
  answers = [() => ({ status: 401, body: { code: "sign-in" } })];
  outbox.add([entry()]);
  await settled();
  expect(outbox.snapshot().trouble).toBe("sign-in");
  await jest.advanceTimersByTimeAsync(120_000);
  expect(posted).toHaveLength(1);
});

it("never sends what another person logged on this device", async () => {
  const others = entry("bo");
  outbox.add([others, entry("ada")]);
  await settled();
  expect(posted.flat()).not.toContain(others.id);
  expect(outbox.snapshot().waiting).toEqual([others]);
});

it("sends one sheet at a time, in parts, in the order logged", async () => {
  const first = Array.from({ length: 130 }, () => entry());
  const second = [entry("ada", "run-2")];
  outbox.add([...first, ...second]);
  await settled();
  await settled();
  expect(posted.map((ids) => ids.length)).toEqual([100, 30, 1]);
  expect(posted.flat()).toEqual([...first, ...second].map((one) => one.id));
});

it("learns what other devices sent, once, and keeps the same state when there is nothing new", () => {
  const other = entry("bo");
  outbox.learn([other]);
  const before = outbox.snapshot();
  outbox.learn([other]);
  expect(outbox.snapshot()).toBe(before);
  expect(before.sent).toEqual([other]);
});
