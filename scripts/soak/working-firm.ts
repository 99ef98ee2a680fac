/** A firm whose technicians work, sign and book without a pause, and what must be true of its books whatever happened meanwhile. */
import { execFileSync } from "node:child_process";

import { v7 as uuidv7 } from "uuid";

import type { Actor } from "../../app/kit/actor";
import { loadSheet } from "../../app/sheet/log/sheets.server";
import type { RunEvent } from "../../core/index";
import { must } from "../../core/must";
import { simulateSheet } from "../../db/demo/simulate-sheet";
import type { Db } from "../../db/index";
import { sleep } from "../lib/system.mjs";
import { type Firm, PASSWORD, PROCEDURE } from "./begin-firm";
import { Visitor } from "./own-server";

/** Most entries of a batch, and what the second device has still to send when the first signs. */
const LAST = 4;
export const say = (text: string): void => void process.stdout.write(`${text}\n`);
export const between = (least: number, most: number): number => least + Math.floor(Math.random() * (most - least + 1));

/** All that is logged at a new sheet of a duty, as of now. */
export function workedSheet(
  { procedure }: Firm,
  person: Actor,
  duty: { id: string },
): { sheetId: string; log: RunEvent[] } {
  const sheetId = uuidv7();
  const at = new Date().toISOString();
  const entries = simulateSheet({
    procedure,
    machine: { options: [], slots: {} },
    sheetId,
    by: person.id,
    startMs: Date.now(),
    newId: uuidv7,
    started: { type: "started", planId: duty.id, procedureId: PROCEDURE, procedureVersion: procedure.version },
    script: {},
  });
  return { sheetId, log: entries.map((entry) => ({ ...entry, at })) };
}

interface Ways {
  /** Where the app's processes answer: who gets no answer from one asks the next, as a proxy does. */
  bases: readonly string[];
  /** A sheet is worked on two devices at once, by way of two processes, and signed while the other still sends; everybody signs in anew for each. */
  isMixed?: boolean;
  /** Milliseconds between two things that somebody does, from and to. */
  pause?: readonly [number, number];
  /** Milliseconds that a device waits for an answer before it asks again. */
  patienceMs?: number;
}

/** People at work, what they were told was done, and how long they waited for it. */
export class Trial {
  readonly acknowledged = { entries: new Set<string>(), signed: new Set<string>(), received: new Set<string>() };
  /** What must not be. */
  readonly faults: string[] = [];
  /** How often each answer came, by what was asked: "sign-in 503". */
  readonly #answers = new Map<string, number>();
  /** What was asked and waited for longest, since it was last taken. */
  #longest = { ms: 0, how: "" };
  /** Milliseconds that each answer was waited for, by what was asked. */
  readonly waits = new Map<string, number[]>();
  /** When what has no answer yet was asked first. */
  readonly #open = new Map<symbol, number>();
  #isEnding = false;
  readonly #firm: Firm;
  readonly #ways: Ways;

  constructor(firm: Firm, ways: Ways) {
    this.#firm = firm;
    this.#ways = ways;
  }

  /** Everybody begins. @returns ends when all have ended; who broke off is a fault */
  async begin(): Promise<void> {
    const { people, duties } = this.#firm;
    try {
      await Promise.all([...people.map((person, i) => this.#technician(i, person, must(duties[i]))), this.#receiver()]);
    } catch (error) {
      this.faults.push(String(error));
      this.end();
    }
  }

  /** Everybody ends with what they are at. */
  end(): void {
    this.#isEnding = true;
  }

  /** Waits, and says how it goes and how long anybody had to wait meanwhile: longer than `withinMs` is a fault. */
  async goes(what: string, seconds: number, withinMs = Infinity): Promise<void> {
    await sleep(seconds * 1000);
    const { ms, how } = this.takeLongest();
    const { entries, signed, received } = this.acknowledged;
    say(
      `${what}: ${entries.size} entries, ${signed.size} signatures, ${received.size} receipts so far; longest wait ${ms} ms (${how})`,
    );
    if (ms > withinMs) this.faults.push(`${what}: somebody waited ${ms} ms`);
  }

  /** Says how often each answer came: nobody is to be told of a fault of ours. */
  tellAnswers(): void {
    for (const [answer, times] of [...this.#answers].sort()) {
      say(`${answer}: ${times}`);
      if (answer.endsWith(" 500")) this.faults.push(`${answer}: ${times} times`);
    }
  }

  /** Says what came out, and ends the process by it. */
  close(good: string): never {
    for (const fault of this.faults) say(fault);
    const { entries, signed, received } = this.acknowledged;
    say(
      `${entries.size} entries, ${signed.size} signatures and ${received.size} receipts acknowledged: ` +
        (this.faults.length === 0 ? good : "FAULTS"),
    );
    process.exit(this.faults.length === 0 ? 0 : 1);
  }

  takeLongest(): { ms: number; how: string } {
    const { ms, how } = this.#longest;
    this.#longest = { ms: 0, how: "" };
    const open = Math.max(0, ...[...this.#open.values()].map((began) => Date.now() - began));
    return open > ms ? { ms: open, how: "still waiting" } : { ms, how };
  }

  /** Asks again and again, as a device does, until there is an answer that is one. */
  async #untilAnswered(
    what: string,
    visitor: Visitor,
    ask: () => Promise<Response>,
  ): Promise<{ status: number; text: string } | null> {
    const key = Symbol(what);
    const began = Date.now();
    this.#open.set(key, began);
    try {
      return await this.#asking(what, visitor, ask, began);
    } finally {
      this.#open.delete(key);
    }
  }

  async #asking(
    what: string,
    visitor: Visitor,
    ask: () => Promise<Response>,
    began: number,
  ): Promise<{ status: number; text: string } | null> {
    const tries: string[] = [];
    for (;;) {
      const asked = Date.now();
      const { base } = visitor;
      // Half an answer is none.
      const answer = await ask()
        .then(async (response) => ({ status: response.status, text: await response.text() }))
        .catch(() => null);
      const said = `${what} ${answer?.status ?? "nothing"}`;
      this.#answers.set(said, (this.#answers.get(said) ?? 0) + 1);
      tries.push(`${answer?.status ?? "nothing"} from ${base} in ${Date.now() - asked} ms`);
      if (answer !== null && answer.status < 500 && answer.status !== 429) {
        const waited = Date.now() - began;
        const waits = this.waits.get(what) ?? [];
        this.waits.set(what, waits);
        waits.push(waited);
        if (waited > this.#longest.ms) this.#longest = { ms: waited, how: `${what}: ${tries.join(", ")}` };
        return answer;
      }
      if (answer?.status === 500) say(`500 at ${what}: ${answer.text.slice(0, 300)}`);
      // What has no answer by the end was not acknowledged.
      if (this.#isEnding && tries.length > 100) return null;
      visitor.goOn();
      await sleep(between(100, 600));
    }
  }

  async #signedIn(name: string, home: number): Promise<Visitor> {
    const visitor = new Visitor(this.#ways.bases, home, this.#ways.patienceMs);
    const form = new URLSearchParams({ signIn: name, password: PASSWORD });
    await this.#untilAnswered("sign-in", visitor, async () => {
      const answer = await visitor.post("/sign-in", form);
      visitor.takeCookie(answer);
      return answer;
    });
    return visitor;
  }

  #isWorking(): boolean {
    return !this.#isEnding;
  }

  /** Works one sheet after the other, in batches of a few entries, and signs each. */
  async #technician(home: number, person: Actor, duty: { id: string; machineId: string }): Promise<void> {
    let visitor = await this.#signedIn(person.name, home);
    while (this.#isWorking()) {
      const { sheetId, log } = workedSheet(this.#firm, person, duty);
      const isMixed = this.#ways.isMixed ?? false;
      const other = isMixed ? visitor.elsewhere() : visitor;
      const left = await this.#sendMost(sheetId, log, [visitor, other]);
      if (!this.#isWorking() || left === null) return;
      // The other device still has some to send.
      const sending = left.length > 0 ? this.#send(other, sheetId, left) : Promise.resolve(true);
      if (!(await this.#sign(visitor, sheetId)) || !(await sending)) return;
      if (isMixed) visitor = await this.#signedIn(person.name, home);
    }
  }

  /** Sends a sheet's entries, by both of the devices when there are two. @returns what the second has still to send; null at the end */
  async #sendMost(sheetId: string, log: RunEvent[], [one, other]: [Visitor, Visitor]): Promise<RunEvent[] | null> {
    const isMixed = one !== other;
    const left = isMixed ? LAST : 0;
    // The sheet is opened first.
    const queue = log.slice(1);
    if (!(await this.#send(one, sheetId, log.slice(0, 1)))) return null;
    while (queue.length > left && this.#isWorking()) {
      await this.#pause();
      const devices = isMixed && queue.length > 2 * LAST ? [one, other] : [one];
      const sent = await Promise.all(
        devices.map((device) => this.#send(device, sheetId, queue.splice(0, between(1, LAST)))),
      );
      if (sent.includes(false)) return null;
    }
    return queue;
  }

  async #send(device: Visitor, sheetId: string, entries: RunEvent[]): Promise<boolean> {
    const answer = await this.#untilAnswered("entries", device, () =>
      device.post(`/api/sheets/${sheetId}/entries`, JSON.stringify({ entries })),
    );
    if (!answer) return false;
    const { accepted, refused } = JSON.parse(answer.text) as { accepted: string[]; refused?: unknown[] };
    if ((refused?.length ?? 0) > 0) throw new Error(`refused: ${JSON.stringify(refused)}`);
    for (const id of accepted) this.acknowledged.entries.add(id);
    return true;
  }

  async #sign(visitor: Visitor, sheetId: string): Promise<boolean> {
    const form = new URLSearchParams({ intent: "sign", customer: "typed", customerName: "Desk", password: PASSWORD });
    form.set("missingReason", "part of a trial");
    const answer = await this.#untilAnswered("signature", visitor, () => visitor.post(`/sheet/${sheetId}/sign`, form));
    if (!answer) return false;
    if (answer.status !== 302) throw new Error(`not signed: ${answer.status} ${answer.text}`);
    this.acknowledged.signed.add(sheetId);
    return true;
  }

  /** Books what has arrived, each with a key that stays the same until there is an answer. */
  async #receiver(): Promise<void> {
    const visitor = await this.#signedIn("lead", 0);
    while (!this.#isEnding) {
      const note = uuidv7();
      const form = new URLSearchParams({ intent: "receive", place: this.#firm.depot, qty: "3", note });
      const answer = await this.#untilAnswered("receipt", visitor, () =>
        visitor.post("/stores/items/squeegee-blade", form, { "Idempotency-Key": note }),
      );
      if (!answer) return;
      if (answer.status >= 400) throw new Error(`not received: ${answer.status} ${answer.text}`);
      this.acknowledged.received.add(note);
      await this.#pause();
    }
  }

  #pause(): Promise<void> {
    return sleep(between(...(this.#ways.pause ?? [20, 200])));
  }

  /** What was acknowledged and is not there once, whole. */
  async lostOrDoubled(db: Db): Promise<string[]> {
    const faults: string[] = [];
    const ids = (await db.select<{ id: string }>("SELECT id FROM log_entries")).map((row) => row.id);
    const there = new Set(ids);
    if (there.size < ids.length) faults.push(`${ids.length - there.size} entries are there twice`);
    for (const id of this.acknowledged.entries) if (!there.has(id)) faults.push(`entry ${id} is lost`);
    const signed = await db.select<{ id: string; records: number; completions: number; status: string }>(
      `SELECT s.id, s.status, (SELECT COUNT(*) FROM record_chain c WHERE c.subject_id = s.id AND c.kind = 'record') AS records,
         (SELECT COUNT(*) FROM completions x WHERE x.sheet_id = s.id) AS completions FROM sheets s`,
    );
    const states = new Map(signed.map((one) => [one.id, one]));
    for (const id of this.acknowledged.signed) {
      const one = states.get(id);
      if (one?.status !== "signed") faults.push(`the signature of ${id} is lost`);
    }
    for (const one of signed) {
      const whole = one.status === "signed" ? 1 : 0;
      // Signed before the other device had sent all of it, it completed nothing.
      const isPart = this.#ways.isMixed && one.completions === 0;
      if (one.records !== whole || (one.completions !== whole && !isPart))
        faults.push(`sheet ${one.id} is ${one.status} with ${one.records} records and ${one.completions} completions`);
    }
    const received = await db.select<{ note: string; times: number }>(
      "SELECT note, COUNT(*) AS times FROM stock_moves WHERE kind = 'receive' GROUP BY note",
    );
    const times = new Map(received.map((one) => [one.note, one.times]));
    for (const note of this.acknowledged.received)
      if (times.get(note) !== 1) faults.push(`receipt ${note} is there ${times.get(note) ?? 0} times`);
    for (const one of received) if (one.times > 1) faults.push(`receipt ${one.note} is there ${one.times} times`);
    for (const check of ["verify-records", "verify-stock"] as const) {
      const found = verify(check);
      if (found !== null) faults.push(`${check}: ${found}`);
    }
    return faults;
  }

  /** Faults put where the checks must find them, one after the other, each taken out again. */
  async plantedFaults(db: Db): Promise<string[]> {
    const sheetId = must([...this.acknowledged.signed][0]);
    const { entries } = await loadSheet(sheetId);
    const entry = must(entries.find((one) => one.type === "step-done") ?? entries[1]);
    const added = uuidv7();
    const took = must(
      (await db.select<{ seq: number }>("SELECT seq FROM stock_moves WHERE kind = 'use' ORDER BY seq LIMIT 1"))[0],
    );
    const plants: [what: string, check: Parameters<typeof verify>[0], put: string, takeOut: string][] = [
      [
        "an entry of a signed sheet that no signature saw",
        "verify-records",
        `INSERT INTO log_entries (id, sheet_id, by_person, type, body, content_hash, received_at, late)
           SELECT '${added}', sheet_id, by_person, type, body, content_hash, received_at, 0 FROM log_entries WHERE id = '${entry.id}'`,
        `DELETE FROM log_entries WHERE id = '${added}'`,
      ],
      [
        "a changed byte in a signed entry",
        "verify-records",
        `UPDATE log_entries SET body = JSON_SET(body, '$.device', 'browsex') WHERE id = '${entry.id}'`,
        `UPDATE log_entries SET body = JSON_SET(body, '$.device', '${entry.device}') WHERE id = '${entry.id}'`,
      ],
      [
        "a changed byte in the chain",
        "verify-records",
        `UPDATE record_chain SET content_hash = CONCAT('0', SUBSTRING(content_hash, 2)) WHERE seq = 1 AND LEFT(content_hash, 1) <> '0'`,
        "",
      ],
      [
        "a sum that differs from the ledger",
        "verify-stock",
        "UPDATE stock SET on_hand = on_hand + 1 ORDER BY item_id, place_id LIMIT 1",
        "UPDATE stock SET on_hand = on_hand - 1 ORDER BY item_id, place_id LIMIT 1",
      ],
      [
        "a ledger that differs from its log, with its sum",
        "verify-stock",
        `UPDATE stock_moves m JOIN stock k ON k.item_id = m.item_id AND k.place_id = m.place_id
           SET m.qty = m.qty - 1, k.on_hand = k.on_hand - 1 WHERE m.seq = ${took.seq}`,
        `UPDATE stock_moves m JOIN stock k ON k.item_id = m.item_id AND k.place_id = m.place_id
           SET m.qty = m.qty + 1, k.on_hand = k.on_hand + 1 WHERE m.seq = ${took.seq}`,
      ],
    ];
    const faults: string[] = [];
    for (const [what, check, put, takeOut] of plants) {
      await db.run(put);
      const found = verify(check);
      say(`planted: ${what}: ${found === null ? "NOT FOUND" : `found (${found.trim().split("\n")[0]})`}`);
      if (found === null) faults.push(`${check} does not find ${what}`);
      if (takeOut) await db.run(takeOut);
    }
    return faults;
  }
}

/** What a check says is wrong; null when it finds nothing. */
function verify(check: "verify-records" | "verify-stock"): string | null {
  try {
    execFileSync(process.execPath, ["--import", "tsx", `scripts/${check}.ts`], { encoding: "utf8" });
    return null;
  } catch (error) {
    return (error as { stdout: string }).stdout;
  }
}
