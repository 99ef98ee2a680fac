/** A request of a page that got no answer: kept, with everything that was typed, until it gets one. */
export interface Held {
  /** `page`: asked again by itself; `form`: sent again when the person says so. */
  kind: "page" | "form";
  again: () => void;
}

/** An answer that takes longer will not come. */
const PATIENCE_MS = 30_000;
const FIRST_AGAIN_MS = 2_000;
const LONGEST_AGAIN_MS = 30_000;
/** What stands before the app says so when the app is not there. */
const NOBODY_THERE = new Set([502, 503, 504]);
const KEYS = "hound-sent:";

const waiting = new Set<Held>();
let held: Held | null = null;
const listeners = new Set<() => void>();

export const heldRequest = {
  subscribe: (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  snapshot: (): Held | null => held,
};

/** Several may wait; a form among them is what the person cares about. */
function publish(): void {
  const all = [...waiting];
  held = all.length === 0 ? null : { kind: all.some((one) => one.kind === "form") ? "form" : "page", again: tryAll };
  for (const listener of listeners) listener();
}

function tryAll(): void {
  for (const one of [...waiting]) one.again();
}

/**
 * Keeps pages alive without a connection: what the router asks for is asked again instead of ending in an error page, and
 * what a form sends waits for the person, under a key by which the server knows that it is the same.
 */
export function holdRequests(plainFetch: typeof fetch): typeof fetch {
  return async (input, init) => {
    const url = new URL(input instanceof Request ? input.url : input, window.location.href);
    if (url.origin !== window.location.origin || !url.pathname.endsWith(".data")) return plainFetch(input, init);
    const form = (init?.method ?? "GET").toUpperCase() !== "GET";
    const name = form ? await nameOf(url, init?.body ?? null) : null;
    const headers = new Headers(init?.headers);
    if (name) headers.set("Idempotency-Key", keyOf(name));
    const left = init?.signal ?? null;
    for (let wait = FIRST_AGAIN_MS; ; wait = Math.min(2 * wait, LONGEST_AGAIN_MS)) {
      const answer = await ask(plainFetch, input, { ...init, headers }, left);
      if (answer) {
        // After a fault nobody knows whether it was done: sent again, it is the same.
        if (name && answer.status < 500) forget(name);
        return answer;
      }
      await untilAgain(form ? null : wait, left);
    }
  };
}

/** The whole answer; null when there is none, or what stands before the app says that nobody is there. */
async function ask(
  plainFetch: typeof fetch,
  input: RequestInfo | URL,
  init: RequestInit,
  left: AbortSignal | null,
): Promise<Response | null> {
  const late = AbortSignal.timeout(PATIENCE_MS);
  try {
    const answer = await plainFetch(input, { ...init, signal: left ? AbortSignal.any([left, late]) : late });
    if (NOBODY_THERE.has(answer.status) && !answer.headers.has("X-Remix-Response")) return null;
    // Read to its end here: an answer that breaks off is none.
    const { status, statusText, headers } = answer;
    const body = await answer.arrayBuffer();
    return new Response(status === 204 || status === 304 ? null : body, { status, statusText, headers });
  } catch (error) {
    left?.throwIfAborted();
    if (error instanceof TypeError || late.aborted) return null;
    throw error;
  }
}

/** Until it is time, there is a connection, or the person says so; ends when the person went elsewhere. */
async function untilAgain(wait: number | null, left: AbortSignal | null): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    const timer = wait === null ? undefined : setTimeout(() => again(), wait);
    const end = (): void => {
      clearTimeout(timer);
      window.removeEventListener("online", back);
      left?.removeEventListener("abort", gone);
      waiting.delete(one);
      publish();
    };
    const again = (): void => {
      end();
      resolve();
    };
    const back = (): void => {
      if (wait !== null) again();
    };
    const gone = (): void => {
      end();
      // What the router gave up ends as a request does that was given up.
      reject(new DOMException("The person went elsewhere.", "AbortError"));
    };
    window.addEventListener("online", back);
    left?.addEventListener("abort", gone);
    const one: Held = { kind: wait === null ? "form" : "page", again };
    waiting.add(one);
    publish();
  });
}

/** Tells what is sent from anything else that could be: where to, and all of it. */
async function nameOf(url: URL, body: BodyInit | null): Promise<string | null> {
  // Of a password nothing is kept, not even this: such forms sign, and signing again is signing once.
  if (
    (body instanceof FormData || body instanceof URLSearchParams) &&
    [...body.keys()].some((name) => /password/i.test(name))
  )
    return null;
  const text =
    body instanceof FormData
      ? [...body].map(([name, value]) => [name, typeof value === "string" ? value : [value.name, value.size]])
      : body instanceof URLSearchParams || typeof body === "string"
        ? String(body)
        : null;
  if (text === null || !("subtle" in crypto)) return null;
  const bytes = new TextEncoder().encode(JSON.stringify([url.pathname + url.search, text]));
  return [...new Uint8Array(await crypto.subtle.digest("SHA-256", bytes))]
    .map((byte) => byte.toString(16).padStart(2, "0"))
    .join("");
}

/** Its key: the same while it has no answer, also after a reload; another once it was answered and is sent anew. */
function keyOf(name: string): string {
  try {
    const known = sessionStorage.getItem(KEYS + name);
    if (known) return known;
    const made = crypto.randomUUID();
    sessionStorage.setItem(KEYS + name, made);
    return made;
  } catch {
    return crypto.randomUUID();
  }
}

function forget(name: string): void {
  try {
    sessionStorage.removeItem(KEYS + name);
  } catch {
    // Nothing was kept.
  }
}
