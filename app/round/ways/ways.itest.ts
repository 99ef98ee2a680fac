import { type ChildProcess, spawn } from "node:child_process";
import { join } from "node:path";

import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { planAndKeep } from "~/round/day/day.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { travelBetween } from "~/round/ways/travel.server";
import { importWays, listWays, waysCsv } from "~/round/ways/ways-csv.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { beginRound, lead, NOW } from "~/testing/round";

beforeAll(beginRound);
afterAll(closeDatabase);

describe("ways between places", () => {
  let roads: ChildProcess;
  const url = "http://127.0.0.1:7497";
  const places = [
    { id: "a", name: "Depot", latitude: 38.5338, longitude: -28.6274 },
    { id: "b", name: "Islet", latitude: 38.552, longitude: -28.562 },
    { id: "c", name: "Yard", latitude: 38.5407, longitude: -28.6402 },
    { id: "d", name: "Nowhere", latitude: null, longitude: null },
  ];
  const behave = (mode: string): Promise<unknown> => fetch(`${url}/behave?mode=${mode}`, { method: "POST" });

  beforeAll(async () => {
    roads = spawn(process.execPath, [join(process.cwd(), "standins/roads.mjs")], {
      stdio: ["ignore", "pipe", "inherit"],
      env: { ...process.env, PORT: "7497", SLOW_MS: "6000" },
    });
    await new Promise((resolve) => must(roads.stdout).once("data", resolve));
    process.env.ROADS_URL = url;
  });
  afterAll(() => {
    delete process.env.ROADS_URL;
    roads.kill();
  });

  it("come from the road service with its ferries, unknown places by a round figure", async () => {
    const { minutes, timetables, notes } = await travelBetween(places);
    expect(must(minutes[0])[2]).toBeLessThan(15);
    expect(timetables.find((one) => one.from === 0 && one.to === 1)).toMatchObject({
      departures: expect.arrayContaining([380]),
      minutes: 23,
    });
    expect(timetables.find((one) => one.from === 0 && one.to === 2)).toBeUndefined();
    expect(must(minutes[3])[0]).toBe(20);
    expect(notes).toEqual([expect.stringContaining("Nowhere")]);
  });

  it("are taken from a table of the firm's own, all or nothing, and given out again as they came", async () => {
    const bad = await importWays(lead, "from,to,minutes\nYard gate,Works,7\nWorks,Nowhere,5\nWorks,School,1.5\n", NOW);
    expect(bad).toMatchObject({
      written: 0,
      faults: [
        { line: 3, column: "to" },
        { line: 4, column: "minutes" },
      ],
    });
    expect(await listWays()).toEqual([]);
    const table = "from,to,minutes\r\nWorks,Yard gate,9\r\nYard gate,Works,7\r\n";
    expect(await importWays(lead, table, NOW)).toEqual({ faults: [], written: 2 });
    expect(await waysCsv()).toBe(table);
    await planAndKeep(lead, lead.id, "2026-06-25", null, NOW);
    await putOnDay(
      lead,
      [await dutyOf("D-3", "flake-ice-maker-clean-sanitise")],
      { on: "2026-06-25", personId: lead.id },
      NOW,
    );
    expect((await planAndKeep(lead, lead.id, "2026-06-25", null, NOW)).travelMinutes).toBe(16);
  });

  it("prefer what the firm knows itself", async () => {
    const [from, to] = [uuidv7(), uuidv7()];
    await getDb().run("INSERT INTO travel_minutes (from_place, to_place, minutes) VALUES (:from, :to, 77)", {
      from,
      to,
    });
    const { minutes, timetables } = await travelBetween([
      { ...must(places[0]), id: from },
      { ...must(places[1]), id: to },
    ]);
    expect(must(minutes[0])[1]).toBe(77);
    expect(must(minutes[1])[0]).not.toBe(77);
    expect(timetables.map((one) => one.from)).toEqual([1]);
  });

  it.each(["down", "broken", "slow"])(
    "fall back to the direct way when the service is %s, and say so",
    async (mode) => {
      await behave(mode);
      const { minutes, timetables, notes } = await travelBetween(places);
      await behave("ok");
      expect(timetables).toEqual([]);
      expect(must(minutes[0])[1]).toBeGreaterThan(5);
      expect(notes[0]).toMatch(/road service does not answer/);
    },
  );
});
