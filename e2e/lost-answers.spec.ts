import { expect } from "@playwright/test";
import { createConnection } from "mysql2/promise";
import { v7 as uuidv7 } from "uuid";

import { must } from "../core/must";
import { signIn } from "./helpers/app";
import { test } from "./helpers/test";

/**
 * Every form that books or logs something, sent again with its key after an answer that nobody heard: it is done once, and
 * whoever sends it again is told the same as the first time.
 */
test("what is sent again after a lost answer is done once, by every form that books", async ({ page, context }) => {
  await signIn(page, "jonas");
  const origin = new URL(page.url()).origin;
  const Cookie = (await context.cookies()).map(({ name, value }) => `${name}=${value}`).join("; ");
  const database = await createConnection(must(process.env["DATABASE_URL"]));
  const one = async (sql: string): Promise<string> => {
    const [rows] = await database.query(sql);
    return String(Object.values(must((rows as Record<string, unknown>[])[0]))[0]);
  };
  const count = (table: string): Promise<string> => one(`SELECT COUNT(*) FROM ${table}`);
  const machine = await one("SELECT id FROM machines WHERE tag = 'HH-4007'");
  const site = await one("SELECT site_id FROM machines WHERE tag = 'HH-4007'");
  const depot = await one("SELECT id FROM places WHERE kind = 'depot' LIMIT 1");
  const van = await one("SELECT id FROM places WHERE kind = 'van' LIMIT 1");
  // More hours than there are would be refused.
  const hours = await one(
    "SELECT COALESCE(MAX(r.value), 0) + 1 FROM meter_readings r JOIN machines m ON m.id = r.machine_id WHERE m.tag = 'HH-4007' AND r.meter = 'running-hours'",
  );
  const me = await one("SELECT id FROM persons WHERE sign_in = 'jonas'");
  const item = "/stores/items/lithium-grease";
  const name = `Once ${Date.now()}`;
  const FORMS: [path: string, table: string, fields: Record<string, string>][] = [
    [item, "stock_moves", { intent: "receive", place: depot, qty: "31" }],
    [item, "stock_moves", { intent: "move", from: depot, to: van, qty: "1", note: "for the week" }],
    [item, "stock_moves", { intent: "scrap", place: depot, qty: "1", note: "leaked" }],
    [`/machines/${machine}`, "pauses", { intent: "pause", reason: "stored", fromOn: "2031-01-01", toOn: "2031-02-01" }],
    [`/machines/${machine}`, "occurrences", { intent: "event", event: "before-idle" }],
    [
      `/machines/${machine}`,
      "meter_readings",
      { intent: "meter", meter: "running-hours", value: hours, confirmed: "on" },
    ],
    [`/machines/${machine}/set-up`, "duties", { intent: "duty", procedureId: "own-duty", title: "Once" }],
    [
      `/sites/${site}`,
      "site_closures",
      { intent: "add-closure", fromOn: "2031-03-01", toOn: "2031-03-02", reason: "fair" },
    ],
    ["/stores/kits", "kits", { intent: "kit", name, procedureId: "own-duty", contents: "1 lithium-grease" }],
    [
      "/stores/items/new/edit",
      "items",
      { intent: "item", name, kind: "part", unit: "pc", packSize: "1", usesPerPiece: "1" },
    ],
    [`/round/day?for=${me}`, "duties", { intent: "emergency", tag: "HH-4007", title: "Leaks", minutes: "30" }],
    ["/stores/orders", "order_lines", { intent: "add", item: "lithium-grease", packs: "1" }],
    ["/stores/places", "places", { intent: "place", kind: "depot", name }],
  ];
  const faults: string[] = [];
  for (const [path, table, fields] of FORMS) {
    const key = uuidv7();
    const send = async (): Promise<string> => {
      const answer = await fetch(origin + path, {
        method: "POST",
        redirect: "manual",
        headers: { Origin: origin, Cookie, "Idempotency-Key": key },
        body: new URLSearchParams(fields),
      });
      if (answer.status >= 400) faults.push(`${path} ${fields["intent"]}: ${answer.status}`);
      return `${answer.status} ${answer.headers.get("location") ?? ""}`;
    };
    const before = Number(await count(table));
    const [first, again] = [await send(), await send()];
    const atOnce = await Promise.all([send(), send()]);
    const added = Number(await count(table)) - before;
    const wanted = fields["intent"] === "move" ? 2 : 1;
    if (added !== wanted) faults.push(`${path} ${fields["intent"]}: ${added} rows instead of ${wanted}`);
    for (const answer of [again, ...atOnce])
      if (answer !== first) faults.push(`${path} ${fields["intent"]}: first ${first}, then ${answer}`);
  }
  await database.end();
  expect(faults).toEqual([]);
});
