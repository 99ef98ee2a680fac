import { must } from "@core";
/** The pictures' queue in a browser without a database: a fake server answers. */
type Answer = number | "cut";
let answers: Answer[];
let posted: string[];
let outbox: typeof import("./photo-outbox").photoOutbox;
const listeners = new Map<string, () => void>();
const settled = async (): Promise<void> => {
  for (let i = 0; i < 40; i++) await jest.advanceTimersByTimeAsync(0);
};
const photo = (id: string) => ({ id, sheetId: "run", bytes: new Blob(["x"]) });

beforeEach(async () => {
  jest.useFakeTimers();
  jest.resetModules();
  answers = [];
  posted = [];
  const on = {
    addEventListener: (name: string, listener: () => void) => listeners.set(name, listener),
    removeEventListener: () => undefined,
  };
  Object.assign(globalThis, { window: on, document: on });
  globalThis.fetch = ((url: string) => {
    posted.push(url);
    const answer = answers.shift() ?? 200;
    return answer === "cut"
      ? Promise.reject(new TypeError("network"))
      : Promise.resolve({
          ok: answer < 400,
          status: answer,
          json: () => Promise.resolve(answer < 500 ? { message: `No: ${answer}` } : null),
        });
  }) as never;
  ({ photoOutbox: outbox } = await import("./photo-outbox"));
  await outbox.start("ada");
  await settled();
});
afterEach(() => {
  outbox.stop();
  jest.useRealTimers();
});

it("sends a picture under its own id, once", async () => {
  outbox.add(photo("p1"));
  expect(outbox.snapshot().waiting).toBe(1);
  await settled();
  expect(posted).toEqual(["/api/sheets/run/photos?id=p1"]);
  expect(outbox.snapshot().waiting).toBe(0);
  await jest.advanceTimersByTimeAsync(60_000);
  expect(posted).toHaveLength(1);
});

it.each(["cut", 500, 503, 401] as const)("keeps it after %s and tries again", async (answer) => {
  answers = [answer];
  outbox.add(photo("p1"));
  await settled();
  expect(outbox.snapshot().waiting).toBe(1);
  await jest.advanceTimersByTimeAsync(16_000);
  expect(posted).toHaveLength(2);
  expect(outbox.snapshot().waiting).toBe(0);
});

it("sends at once when the connection is back", async () => {
  answers = ["cut"];
  outbox.add(photo("p1"));
  await settled();
  must(listeners.get("online"))();
  await settled();
  expect(outbox.snapshot().waiting).toBe(0);
});

it.each([403, 413, 422])(
  "keeps what is not taken (%d) until the person has read why, and sends the others",
  async (answer) => {
    answers = [answer];
    outbox.add(photo("p1"));
    outbox.add(photo("p2"));
    await settled();
    expect(posted).toHaveLength(2);
    expect(outbox.snapshot()).toEqual({ waiting: 0, refused: [{ id: "p1", refusal: `No: ${answer}` }] });
    await jest.advanceTimersByTimeAsync(60_000);
    expect(posted).toHaveLength(2);
    outbox.dismiss("p1");
    expect(outbox.snapshot()).toEqual({ waiting: 0, refused: [] });
  },
);

it.each([404, 409])("lets nothing wait behind a picture whose sheet or entry is not there yet (%d)", async (answer) => {
  answers = [answer];
  outbox.add(photo("p1"));
  outbox.add(photo("p2"));
  await settled();
  expect(posted.map((url) => url.slice(-2))).toEqual(["p1", "p2"]);
  expect(outbox.snapshot()).toEqual({ waiting: 1, refused: [] });
  await jest.advanceTimersByTimeAsync(16_000);
  expect(outbox.snapshot().waiting).toBe(0);
});

it("leaves another person's pictures alone", async () => {
  answers = ["cut"];
  outbox.add(photo("p1"));
  await settled();
  outbox.stop();
  await outbox.start("bo");
  await settled();
  expect(posted).toHaveLength(1);
  expect(outbox.snapshot().waiting).toBe(1);
});

it("shows what was not taken to who took it, and to nobody else", async () => {
  answers = [422];
  outbox.add(photo("p1"));
  await settled();
  outbox.stop();
  await outbox.start("bo");
  await settled();
  expect(outbox.snapshot().refused).toEqual([]);
  outbox.stop();
  await outbox.start("ada");
  await settled();
  expect(outbox.snapshot().refused).toEqual([{ id: "p1", refusal: "No: 422" }]);
});

it("tells who listens", async () => {
  const seen: number[] = [];
  const stop = outbox.subscribe(() => seen.push(outbox.snapshot().waiting));
  outbox.add(photo("p1"));
  await settled();
  stop();
  expect(seen).toEqual([1, 0]);
});
