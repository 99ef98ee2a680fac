import type { RunEvent } from "@core";
import { must } from "@core";
import Dexie, { type EntityTable } from "dexie";

import { restamped } from "./entry-time";
import { photoOutbox } from "./photo-outbox";
import { serverClock, type Stamp } from "./server-clock";

/** How an entry that is not acknowledged yet stands. */
export interface OutboxEntry {
  id: string;
  entry: RunEvent;
  /** Set when the server refused it: the person must read it, it is not sent again by itself. */
  refusal: string | null;
  /** When it was logged, by the device's clocks. */
  stamp?: Stamp | undefined;
}

export interface OutboxState {
  waiting: readonly RunEvent[];
  refused: readonly OutboxEntry[];
  /** Acknowledged since this page was opened; the page's own data may be older. */
  sent: readonly RunEvent[];
  trouble: "none" | "offline" | "sign-in" | "clock";
}

const EMPTY: OutboxState = { waiting: [], refused: [], sent: [], trouble: "none" };
const BATCH = 100;
const FIRST_RETRY_MS = 1000;
const LONGEST_RETRY_MS = 30_000;

interface BatchAnswer {
  accepted: string[];
  refused: { id: string | null; code: string; message: string; notBefore?: string }[];
}

/**
 * Entries on their way to the server. They are kept in the browser's database before anything is sent, survive a reload,
 * and leave it only when the server has acknowledged them. One per page; the shell starts it with the signed-in person.
 */
class Outbox {
  #db: (Dexie & { entries: EntityTable<OutboxEntry, "id"> }) | null = null;
  #personId: string | null = null;
  #entries = new Map<string, OutboxEntry>();
  #sent: RunEvent[] = [];
  #trouble: OutboxState["trouble"] = "none";
  #state = EMPTY;
  #listeners = new Set<() => void>();
  #sending = false;
  #retryMs = FIRST_RETRY_MS;
  #timer: ReturnType<typeof setTimeout> | null = null;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly snapshot = (): OutboxState => this.#state;
  readonly serverSnapshot = (): OutboxState => EMPTY;

  /** Loads what an earlier page left and begins to send the person's own entries. */
  async start(personId: string): Promise<void> {
    this.#personId = personId;
    try {
      for (const entry of await this.#database().entries.toArray()) this.#entries.set(entry.id, entry);
    } catch {
      // A browser without a database (private mode) still sends; it only cannot keep entries over a reload.
    }
    this.#publish();
    window.addEventListener("online", this.#sendNow);
    document.addEventListener("visibilitychange", this.#sendNow);
    void this.#send();
  }

  stop(): void {
    this.#personId = null;
    window.removeEventListener("online", this.#sendNow);
    document.removeEventListener("visibilitychange", this.#sendNow);
    if (this.#timer) clearTimeout(this.#timer);
  }

  add(entries: readonly RunEvent[], stamp?: Stamp): void {
    const kept = entries.map((entry): OutboxEntry => ({ id: entry.id, entry, refusal: null, stamp }));
    for (const one of kept) this.#entries.set(one.id, one);
    this.#publish();
    void this.#database()
      .entries.bulkPut(kept)
      .catch(() => undefined)
      .then(() => this.#send());
  }

  /** Entries that another device sent, or a page load brought. */
  learn(entries: readonly RunEvent[]): void {
    const known = new Set(this.#sent.map((entry) => entry.id));
    const fresh = entries.filter((entry) => !known.has(entry.id));
    if (fresh.length === 0) return;
    this.#sent = [...this.#sent, ...fresh];
    this.#publish();
  }

  /** The person has read why an entry was refused. */
  dismiss(id: string): void {
    this.#entries.delete(id);
    this.#publish();
    void this.#database()
      .entries.delete(id)
      .catch(() => undefined);
  }

  readonly #sendNow = (): void => {
    this.#retryMs = FIRST_RETRY_MS;
    void this.#send();
  };

  async #send(): Promise<void> {
    if (this.#sending || this.#personId === null) return;
    this.#sending = true;
    // A sheet whose entries have to wait holds up no other's.
    const held = new Set<string>();
    try {
      this.#trouble = "none";
      for (let batch = this.#nextBatch(held); batch.length > 0; batch = this.#nextBatch(held)) {
        const verdict = await this.#post(batch);
        if (verdict === "none") {
          this.#retryMs = FIRST_RETRY_MS;
          continue;
        }
        this.#trouble = verdict === "unreachable" ? "offline" : verdict;
        if (verdict === "unreachable" || verdict === "sign-in") break;
        held.add(must(batch[0]).runId);
      }
    } finally {
      this.#sending = false;
      this.#publish();
    }
    if (this.#trouble === "offline" || this.#trouble === "clock") {
      if (this.#timer) clearTimeout(this.#timer);
      this.#timer = setTimeout(() => void this.#send(), this.#retryMs);
      this.#retryMs = Math.min(LONGEST_RETRY_MS, this.#retryMs * 2);
    }
  }

  /** The oldest waiting entries of one sheet that is not held, the person's own alone. */
  #nextBatch(held: ReadonlySet<string>): RunEvent[] {
    const waiting = [...this.#entries.values()]
      .filter((entry) => entry.refusal === null && entry.entry.by === this.#personId && !held.has(entry.entry.runId))
      .map((entry) => entry.entry);
    return waiting.filter((entry) => entry.runId === must(waiting[0]).runId).slice(0, BATCH);
  }

  /** `unreachable`: not sent at all; anything else that is not `none` is about this sheet. */
  async #post(batch: RunEvent[]): Promise<OutboxState["trouble"] | "unreachable"> {
    let response: Response;
    try {
      response = await fetch(`/api/sheets/${must(batch[0]).runId}/entries`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ entries: batch }),
        signal: AbortSignal.timeout(20_000),
      });
    } catch {
      return "unreachable";
    }
    if (response.status === 401) return "sign-in";
    const answer = (await response.json().catch(() => null)) as
      | (BatchAnswer & { code?: string; message?: string })
      | null;
    // Only a refusal in so many words counts as one: anything cut off, busy or broken is tried again.
    if (answer === null || response.status >= 500 || response.status === 429) return "offline";
    if (!response.ok) {
      const message = answer.message ?? `The server refused it (${response.status}).`;
      await this.#settle(
        [],
        batch.map((entry) => ({ id: entry.id, message })),
      );
      return "none";
    }
    const accepted = new Set(answer.accepted);
    await this.#settle(
      batch.filter((entry) => accepted.has(entry.id)),
      answer.refused.flatMap((one) =>
        one.id === null || one.code === "clock" ? [] : [{ id: one.id, message: one.message }],
      ),
    );
    const times = answer.refused.filter((one) => one.code === "clock");
    if (times.length === 0) return "none";
    // What has the right time now is sent again at once; else the clock is put right, or caught up with.
    return (await this.#restamp(times)) ? "none" : "clock";
  }

  /** Gives entries whose time was not taken the server's; false where one of them has it already, or none is known. */
  async #restamp(refused: BatchAnswer["refused"]): Promise<boolean> {
    const changed: OutboxEntry[] = [];
    let all = true;
    for (const { id, notBefore } of refused) {
      const known = id === null ? undefined : this.#entries.get(id);
      if (!known) continue;
      const told = known.stamp ? serverClock.timeOf(known.stamp) : serverClock.now().at;
      const entry = restamped(known.entry, Math.max(told, notBefore ? Date.parse(notBefore) : 0));
      if (entry) changed.push({ ...known, entry });
      else all = false;
    }
    for (const one of changed) this.#entries.set(one.id, one);
    this.#publish();
    await this.#database()
      .entries.bulkPut(changed)
      .catch(() => undefined);
    return all && changed.length > 0;
  }

  async #settle(accepted: RunEvent[], refused: { id: string; message: string }[]): Promise<void> {
    for (const entry of accepted) this.#entries.delete(entry.id);
    if (accepted.some((entry) => entry.type === "photo")) photoOutbox.sendNow();
    this.#sent = [...this.#sent, ...accepted];
    const changed: OutboxEntry[] = [];
    for (const { id, message } of refused) {
      const entry = this.#entries.get(id);
      if (!entry) continue;
      const next = { ...entry, refusal: message };
      this.#entries.set(id, next);
      changed.push(next);
    }
    this.#publish();
    try {
      await this.#database().entries.bulkDelete(accepted.map((entry) => entry.id));
      await this.#database().entries.bulkPut(changed);
    } catch {
      // Sent again after a reload at worst: the server knows the ids.
    }
  }

  #publish(): void {
    const entries = [...this.#entries.values()];
    this.#state = {
      waiting: entries.filter((entry) => entry.refusal === null).map((entry) => entry.entry),
      refused: entries.filter((entry) => entry.refusal !== null),
      sent: this.#sent,
      trouble: this.#trouble,
    };
    for (const listener of this.#listeners) listener();
  }

  #database(): Dexie & { entries: EntityTable<OutboxEntry, "id"> } {
    if (!this.#db) {
      const db = new Dexie("humble-hound") as Dexie & { entries: EntityTable<OutboxEntry, "id"> };
      db.version(1).stores({ entries: "id" });
      this.#db = db;
    }
    return this.#db;
  }
}

export const outbox = new Outbox();
