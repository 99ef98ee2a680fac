import { type ChildProcess, spawn } from "node:child_process";
import { join } from "node:path";

import { must } from "@core";
import { getDb } from "@db";
import ICAL from "ical.js";
import nodeIcal from "node-ical";

import type { Actor } from "~/kit/actor";
import { dropLease, takeLease } from "~/kit/server/leases.server";
import { findLink, listLinks, makeLink, revokeOwnLink } from "~/kit/server/links.server";
import { addMeter } from "~/machines/meters.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { calendarFeed } from "./calendar-feed.server";
import { gatewayView, pollGateway, type PollResult } from "./gateway.server";
import { settleParked } from "./parked.server";

const NOW = new Date();
let lead: Actor;
let machineId: string;
let siteId: string;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lead = await addActor("Lea", "lead");
  await importLines(
    lead,
    [
      "Co,Works; north,Quay 1,Europe/Lisbon,,08:00-12:00,Hall,G-1,Sweeper “one”,ride-on-sweeper,,2026-06-01",
      "Co,Works; north,Quay 1,Europe/Lisbon,,08:00-12:00,Hall,G-2,Ice,flake-ice-maker,,",
    ],
    NOW,
  );
  const [machine] = await getDb().select<{ id: string; siteId: string }>(
    "SELECT id, site_id AS siteId FROM machines WHERE tag = 'G-1'",
  );
  machineId = must(machine).id;
  siteId = must(machine).siteId;
});
afterAll(closeDatabase);

describe("links without sign-in", () => {
  it("carry 256 random bits, are kept as hashes, open only their kind, and end at once", async () => {
    const token = await makeLink(lead, "site-calendar", siteId, NOW);
    expect(token).toMatch(/^[A-Za-z0-9_-]{43}$/);
    expect(await makeLink(lead, "site-calendar", siteId, NOW)).not.toBe(token);
    expect(await getDb().select("SELECT id FROM links WHERE token_hash = :token", { token })).toEqual([]);
    const link = await findLink(["site-calendar"], token);
    expect(link).toMatchObject({ kind: "site-calendar", subjectId: siteId });
    expect(await findLink(["operator"], token)).toBeNull();
    expect(await findLink(["site-calendar"], `${token.slice(0, 42)}x`)).toBeNull();
    expect(await findLink(["site-calendar"], "' OR 1=1 --")).toBeNull();
    await revokeOwnLink(lead, "site-calendar", "another", must(link).id, NOW);
    expect(await findLink(["site-calendar"], token)).not.toBeNull();
    await revokeOwnLink(lead, "site-calendar", siteId, must(link).id, NOW);
    expect(await findLink(["site-calendar"], token)).toBeNull();
    expect(await listLinks(["site-calendar"], siteId)).toHaveLength(1);
  });
});

describe("the calendar feed", () => {
  const feed = (kind: "site-calendar" | "person-calendar", subjectId: string) =>
    calendarFeed({ kind, subjectId }, "https://hound.example", NOW);
  /** The same feed through two general-purpose parsers, `ical.js` and `node-ical`. */
  const parsed = (text: string) => {
    const component = new ICAL.Component(ICAL.parse(text) as never);
    const first = component.getAllSubcomponents("vevent").map((one) => {
      const event = new ICAL.Event(one);
      return {
        uid: event.uid,
        day: event.startDate.toString(),
        summary: event.summary,
        sequence: event.sequence,
        allDay: event.startDate.isDate,
      };
    });
    const second = Object.values(nodeIcal.sync.parseICS(text))
      .filter((one) => one?.type === "VEVENT")
      .map((one) => {
        const event = one;
        const start = event.start as Date;
        const day = `${start.getFullYear()}-${String(start.getMonth() + 1).padStart(2, "0")}-${String(start.getDate()).padStart(2, "0")}`;
        return {
          uid: event.uid,
          day,
          summary: event.summary as string,
          sequence: Number(event.sequence),
          allDay: event.datetype === "date",
        };
      });
    const byUid = (a: { uid: string }, b: { uid: string }): number => (a.uid < b.uid ? -1 : 1);
    expect(second.sort(byUid)).toEqual(first.sort(byUid));
    return first;
  };

  it("says the same to two parsers, whole days with the duty's words", async () => {
    const events = parsed(await feed("site-calendar", siteId));
    expect(events).toHaveLength(2);
    expect(events.every((event) => event.allDay)).toBe(true);
    expect(events.map((event) => event.summary).sort()).toEqual([
      "Clean, sanitise and check the bearings – Ice",
      "Walk-round and brooms – Sweeper “one”",
    ]);
  });

  it("moves an event instead of doubling it, and puts it into its person's own feed", async () => {
    const dutyId = await dutyOf("G-2", "flake-ice-maker-clean-sanitise");
    const uidOf = async () =>
      must(parsed(await feed("site-calendar", siteId)).find((event) => event.uid.startsWith(dutyId)));
    const before = await uidOf();
    expect(parsed(await feed("person-calendar", lead.id))).toEqual([]);
    const on = new Date(NOW.getTime() + 9 * 86_400_000).toISOString().slice(0, 10);
    await putOnDay(lead, [dutyId], { on, personId: lead.id }, NOW);
    const after = await uidOf();
    expect(after).toMatchObject({ uid: before.uid, day: on, sequence: before.sequence + 1 });
    expect(parsed(await feed("person-calendar", lead.id))).toEqual([after]);
  });

  it("keeps to the format: CRLF, folded lines, a product id and stamps", async () => {
    const text = await feed("site-calendar", siteId);
    expect(text.split("\r\n").every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
    expect(text.replaceAll("\r\n", "")).not.toMatch(/[\r\n]/);
    expect(text).toMatch(/PRODID:.+/);
    expect(text.match(/BEGIN:VEVENT/g)).toHaveLength((text.match(/\r\nDTSTAMP:\d{8}T\d{6}Z/g) ?? []).length);
  });
});

describe("one process at a time", () => {
  it("holds a lease until it is dropped or runs out", async () => {
    expect(await takeLease("x", "a", 1000, NOW)).toBe(true);
    expect(await takeLease("x", "b", 1000, NOW)).toBe(false);
    expect(await takeLease("x", "a", 1000, NOW)).toBe(true);
    expect(await takeLease("x", "b", 1000, new Date(NOW.getTime() + 3000))).toBe(true);
    await dropLease("x", "b");
    expect(await takeLease("x", "a", 1000, NOW)).toBe(true);
  });
});

describe("the gateway stand-in", () => {
  const START_MS = Math.floor(NOW.getTime() / 86_400_000) * 86_400_000 - 12 * 86_400_000;
  let gateway: ChildProcess | null = null;
  let url = "";

  async function start(mode = "ok"): Promise<void> {
    gateway = spawn(process.execPath, [join(process.cwd(), "standins/gateway.mjs")], {
      env: {
        ...process.env,
        PORT: url ? new URL(url).port : "0",
        SEED: "11",
        CONTROLLERS: "2",
        START_MS: String(START_MS),
        MODE: mode,
        SLOW_MS: "60000",
      },
      stdio: ["ignore", "pipe", "inherit"],
    });
    const line = await new Promise<string>((resolve) =>
      must(must(gateway).stdout).once("data", (chunk: Buffer) => resolve(String(chunk))),
    );
    url = must(/http:\S+/.exec(line))[0];
  }
  async function stop(signal: NodeJS.Signals = "SIGKILL"): Promise<void> {
    const gone = new Promise((resolve) => must(gateway).once("exit", resolve));
    must(gateway).kill(signal);
    await gone;
    gateway = null;
  }
  const behave = (mode: string) => fetch(`${url}/behave?mode=${mode}`, { method: "POST" });
  let clock = 0;
  /** Polls at a time of its own, so that no back-off is waited out. */
  const poll = (ask?: typeof fetch): Promise<PollResult> =>
    pollGateway(url, new Date(NOW.getTime() + (clock += 10 * 60_000)), ask);
  const drain = async (): Promise<void> => {
    for (let more = true; more;) ({ more } = await poll());
  };
  const stored = () =>
    getDb().select<{ meter: string; value: number; at: Date; replaced: number; id: string }>(
      "SELECT meter, value, read_at AS at, replaced, external_id AS id FROM meter_readings WHERE machine_id = :machineId ORDER BY read_at, meter",
      { machineId },
    );
  /** What the simulation says, asked directly. */
  const truth = async (): Promise<string[]> => {
    const ids: string[] = [];
    for (let after = "-1", more = true; more;) {
      const answer = (await (await fetch(`${url}/readings?after=${after}&limit=2000`)).json()) as {
        readings: { id: string; ref: string; kind: string }[];
        next: string;
        more: boolean;
      };
      ids.push(
        ...answer.readings
          .filter((one) => one.kind === "meter" && ["ctl-02/running-hours", "ctl-02/cutting-hours"].includes(one.ref))
          .map((one) => `gw:${one.id}`),
      );
      ({ next: after, more } = answer);
    }
    return ids.sort();
  };

  beforeAll(async () => {
    await addMeter(
      lead,
      machineId,
      {
        meter: "running-hours",
        name: "Running hours",
        unit: "h",
        basis: "running",
        gatewayRef: "ctl-02/running-hours",
      },
      NOW,
    );
    await addMeter(
      lead,
      machineId,
      {
        meter: "cutting-hours",
        name: "Cutting hours",
        unit: "h",
        basis: "cutting",
        gatewayRef: "ctl-02/cutting-hours",
      },
      NOW,
    );
    await addMeter(
      lead,
      machineId,
      { meter: "fan-light", name: "Fan light", unit: "on", basis: "light", gatewayRef: "ctl-02/fan-light" },
      NOW,
    );
    await start();
  });
  afterAll(async () => gateway && (await stop()));

  it("is read page by page, each reading once, the replaced controller as an event", async () => {
    const first = await poll();
    expect(first).toMatchObject({ outcome: "ok", more: true });
    expect(first.taken).toBeGreaterThan(0);
    await drain();
    const rows = await stored();
    expect(rows.map((row) => row.id).sort()).toEqual(await truth());
    expect(rows.filter((row) => row.replaced)).toHaveLength(2);
    expect(await poll()).toMatchObject({ outcome: "ok", taken: 0 });
    expect(await getDb().select("SELECT id FROM occurrences WHERE event = 'fan-light'")).not.toEqual([]);
  });

  it("asks about a name that no machine has once, not a thousand times", async () => {
    const { parked } = await gatewayView();
    const refs = parked.map((one) => one.ref);
    expect(new Set(refs).size).toBe(refs.length);
    expect(refs).toContain("ctl-01/running-hours");
  });

  it("killed, broken, down, slow and back again: nothing is lost or doubled", async () => {
    await getDb().run("DELETE FROM meter_readings");
    await getDb().run("UPDATE gateways SET read_to = ''");
    await poll();
    await stop("SIGKILL");
    const failed = await poll();
    expect(failed).toMatchObject({ outcome: "failed", taken: 0 });
    // The wait grows with each failure and is kept.
    const [first] = await getDb().select<{ failures: number; next: Date }>(
      "SELECT failures, next_try_at AS next FROM gateways",
    );
    expect(await pollGateway(url, new Date(must(first).next.getTime() - 1000))).toMatchObject({ outcome: "waiting" });
    await start("down");
    expect(await poll()).toMatchObject({ outcome: "failed", message: expect.stringContaining("503") });
    await behave("broken");
    expect(await poll()).toMatchObject({ outcome: "failed", message: expect.stringContaining("JSON") });
    await behave("slow");
    const impatient: typeof fetch = (input, init) => fetch(input, { ...init, signal: AbortSignal.timeout(150) });
    expect(await poll(impatient)).toMatchObject({ outcome: "failed" });
    const [last] = await getDb().select<{ failures: number }>("SELECT failures FROM gateways");
    expect(must(last).failures).toBe(must(first).failures + 3);
    await behave("ok");
    await drain();
    expect((await stored()).map((row) => row.id).sort()).toEqual(await truth());
    expect((await gatewayView()).state).toMatchObject({ failures: 0, message: "" });
  });

  it("that lies fills the parking place with reasons, not the meters", async () => {
    await getDb().run("DELETE FROM meter_readings");
    await getDb().run("DELETE FROM parked_readings");
    await getDb().run("UPDATE gateways SET read_to = ''");
    await behave("lying");
    await drain();
    const rows = await stored();
    expect(rows.every((row) => row.value >= 0 && row.at <= new Date())).toBe(true);
    const spoiled = /-(neg|future|text)$/;
    expect(rows.some((row) => spoiled.test(row.id))).toBe(false);
    await behave("ok");
    const honest = (await truth()).filter((id) => !rows.some((row) => row.id === id));
    expect(honest).toEqual([]);
    expect(new Set(rows.map((row) => row.id)).size).toBe(rows.length);
    const reasons = (
      await getDb().select<{ reason: string }>(
        "SELECT DISTINCT reason FROM parked_readings WHERE gateway_ref LIKE 'ctl-02/%hours'",
      )
    ).map((row) => row.reason);
    expect(reasons.join(" ")).toMatch(/negative/);
    expect(reasons.join(" ")).toMatch(/future/);
    expect(reasons.join(" ")).toMatch(/no number/);
  });

  it("whose parked readings a person takes or drops", async () => {
    const { parked } = await gatewayView();
    const negative = must(parked.find((one) => one.reason.includes("negative") && one.machineName));
    await expect(settleParked(lead, [negative.id], "taken", NOW)).rejects.toMatchObject({ status: 422 });
    await settleParked(lead, [negative.id], "dropped", NOW);
    expect((await gatewayView()).parked.some((one) => one.id === negative.id)).toBe(false);
    const before = (await stored()).length;
    await getDb().run(
      "INSERT INTO parked_readings (id, external_id, gateway_ref, payload, reason, parked_at) VALUES ('00000000-0000-7000-8000-000000000001', 'gw:by-hand', 'ctl-02/running-hours', :payload, 'It is lower', :now)",
      { payload: JSON.stringify({ value: 0.5, at: NOW.toISOString() }), now: NOW },
    );
    await settleParked(lead, ["00000000-0000-7000-8000-000000000001"], "taken", NOW);
    await settleParked(lead, ["00000000-0000-7000-8000-000000000001"], "taken", NOW);
    const rows = await stored();
    expect(rows).toHaveLength(before + 1);
    expect(rows.find((row) => row.id === "gw:by-hand")).toMatchObject({ replaced: true });
  });

  it("counts hours that cannot have passed as a lie", async () => {
    const [{ value, at }] = (await getDb().select<{ value: number; at: Date }>(
      "SELECT value, read_at AS at FROM meter_readings WHERE meter = 'cutting-hours' ORDER BY read_at DESC LIMIT 1",
    )) as [{ value: number; at: Date }];
    const ask =
      (reading: object): typeof fetch =>
      () =>
        Promise.resolve(
          new Response(JSON.stringify({ readings: [reading], next: String(Date.now() + Math.random()), more: false })),
        );
    const next = {
      ref: "ctl-02/cutting-hours",
      kind: "meter",
      unit: "h",
      at: new Date(at.getTime() + 3_600_000).toISOString(),
    };
    expect(await poll(ask({ ...next, id: "far", value: value + 30 }))).toMatchObject({ taken: 0, parked: 1 });
    expect(await poll(ask({ ...next, id: "back", value: value - 1 }))).toMatchObject({ taken: 0, parked: 1 });
    expect(await poll(ask({ ...next, id: "fine", value: value + 1 }))).toMatchObject({ taken: 1, parked: 0 });
  });
});
