import { must } from "@core";

/** A network that answers as it is told, and the few things of a browser that are asked for. */
type Told = number | "cut" | "broken off" | ((headers: Headers) => Response);
let told: Told[];
let asked: { url: string; key: string | null }[];
let requests: typeof import("./held-requests");
let kept: Map<string, string>;
const listeners = new Map<string, () => void>();

/** Hashing runs in a thread of its own, outside of the timers, and takes as long as the machine is busy. */
let hashing: Promise<unknown> = Promise.resolve();
const digest = crypto.subtle.digest.bind(crypto.subtle);
jest.spyOn(crypto.subtle, "digest").mockImplementation((...what) => {
  const hash = digest(...what);
  hashing = hash;
  return hash;
});

const settled = async (): Promise<void> => {
  for (let i = 0; i < 5; i++) {
    await hashing;
    await new Promise((resolve) =>
      jest.requireActual<typeof import("node:timers")>("node:timers").setImmediate(resolve),
    );
    await jest.advanceTimersByTimeAsync(0);
  }
};

const network: typeof fetch = (input, init) => {
  const headers = new Headers(init?.headers);
  asked.push({ url: input instanceof Request ? input.url : input.toString(), key: headers.get("Idempotency-Key") });
  const answer = told.shift() ?? 200;
  if (answer === "cut") return Promise.reject(new TypeError("network"));
  if (answer === "broken off")
    return Promise.resolve(
      new Response(new ReadableStream({ pull: (controller) => controller.error(new TypeError("terminated")) })),
    );
  return Promise.resolve(typeof answer === "number" ? new Response("ok", { status: answer }) : answer(headers));
};

beforeEach(async () => {
  jest.useFakeTimers({ doNotFake: ["setImmediate", "nextTick", "queueMicrotask"] });
  jest.resetModules();
  told = [];
  asked = [];
  kept = new Map();
  listeners.clear();
  Object.assign(globalThis, {
    window: {
      location: new URL("https://hound.example/stores"),
      addEventListener: (name: string, listener: () => void) => listeners.set(name, listener),
      removeEventListener: (name: string) => listeners.delete(name),
    },
    sessionStorage: {
      getItem: (name: string) => kept.get(name) ?? null,
      setItem: (name: string, value: string) => kept.set(name, value),
      removeItem: (name: string) => kept.delete(name),
    },
  });
  requests = await import("./held-requests");
});
afterEach(() => jest.useRealTimers());

const send = (path: string, init?: RequestInit) => {
  const answer = requests.holdRequests(network)(`https://hound.example${path}`, init);
  answer.catch(() => undefined);
  return answer;
};
const form = (fields: Record<string, string>): RequestInit => ({ method: "POST", body: new URLSearchParams(fields) });
const heldNow = () => requests.heldRequest.snapshot();

it("lets everything else through as it is", async () => {
  told = ["cut", 503];
  await expect(send("/api/visit")).rejects.toThrow("network");
  expect((await send("/healthz")).status).toBe(503);
  expect(heldNow()).toBeNull();
});

it.each<[string, Told]>([
  ["no connection", "cut"],
  ["an answer that breaks off", "broken off"],
  ["a proxy that finds nobody", 502],
  ["a proxy that gives up waiting", 504],
])(
  "asks for a page again after %s, later each time, and at once when there is a connection",
  async (_what, trouble) => {
    told = [trouble, trouble, trouble, 200];
    const answer = send("/round.data");
    await settled();
    expect(heldNow()).toMatchObject({ kind: "page" });
    await jest.advanceTimersByTimeAsync(2_000);
    await settled();
    expect(asked).toHaveLength(2);
    await jest.advanceTimersByTimeAsync(2_000);
    expect(asked).toHaveLength(2);
    await jest.advanceTimersByTimeAsync(2_000);
    await settled();
    expect(asked).toHaveLength(3);
    must(listeners.get("online"))();
    expect(await (await answer).text()).toBe("ok");
    expect(heldNow()).toBeNull();
  },
);

it("takes what the app itself says for an answer, a fault of its own too", async () => {
  told = [() => new Response("busy", { status: 503, headers: { "X-Remix-Response": "yes" } })];
  expect((await send("/round.data")).status).toBe(503);
});

it("lets a page go that the person does not wait for any more", async () => {
  told = ["cut"];
  const left = new AbortController();
  const answer = send("/round.data", { signal: left.signal });
  await settled();
  left.abort();
  await expect(answer).rejects.toMatchObject({ name: "AbortError" });
  expect(heldNow()).toBeNull();
  await jest.advanceTimersByTimeAsync(60_000);
  expect(asked).toHaveLength(1);
});

it("sends a form again when the person says so, never by itself, under the same key", async () => {
  told = ["cut", 200];
  const answer = send("/stores/items/1.data", form({ intent: "receive", qty: "7" }));
  await settled();
  expect(heldNow()).toMatchObject({ kind: "form" });
  await jest.advanceTimersByTimeAsync(120_000);
  listeners.get("online")?.();
  expect(asked).toHaveLength(1);
  must(heldNow()).again();
  await settled();
  expect((await answer).status).toBe(200);
  expect(asked.map((one) => one.key)).toEqual([asked[0]?.key, asked[0]?.key]);
  expect(asked[0]?.key).toMatch(/^[0-9a-f-]{36}$/);
});

it("knows the same thing again after a reload while it has no answer, and takes it for another once it had", async () => {
  told = ["cut", 500, 200, 200];
  const same = form({ intent: "receive", qty: "7" });
  void send("/stores/items/1.data", same);
  await settled();
  // As by a new page: nothing is left but what was kept.
  jest.resetModules();
  requests = await import("./held-requests");
  for (let i = 0; i < 3; i++) {
    void send("/stores/items/1.data", same);
    await settled();
  }
  const [first, afterReload, afterFault, anew] = asked.map((one) => one.key);
  expect(afterReload).toBe(first);
  expect(afterFault).toBe(first);
  expect(anew).not.toBe(first);
});

it("takes other words, another page and another file for another thing", async () => {
  const file = (size: number): FormData => {
    const data = new FormData();
    data.set("file", new File(["x".repeat(size)], "register.csv"));
    return data;
  };
  for (const [path, init] of [
    ["/a.data", form({ qty: "7" })],
    ["/a.data", form({ qty: "8" })],
    ["/b.data", form({ qty: "7" })],
    ["/a.data", { method: "POST", body: file(1) }],
    ["/a.data", { method: "POST", body: file(2) }],
  ] as const)
    await send(path, init);
  expect(new Set(asked.map((one) => one.key)).size).toBe(5);
});

it("keeps nothing of a password", async () => {
  told = ["cut", 200];
  const answer = send("/sheet/1/sign.data", form({ password: "secret one" }));
  await settled();
  expect(kept.size).toBe(0);
  must(heldNow()).again();
  await answer;
  expect(asked.map((one) => one.key)).toEqual([null, null]);
});
