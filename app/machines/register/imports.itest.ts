import { must } from "@core";
import { getDb } from "@db";
import fc from "fast-check";

import type { Actor } from "~/kit/actor";
import { exportMachines, listMachines } from "~/machines/machines.server";
import {
  addActor,
  closeDatabase,
  dutyOf,
  freshDatabase,
  HEADER,
  importLines,
  publishShipped,
} from "~/testing/database";

import { answerImport, applyImport, checkImport, claimImport, getImport } from "./imports.server";
import { COLUMNS, type MachineRecord, parseMachineCsv, writeMachineCsv } from "./machine-csv.server";

const NOW = new Date("2026-06-10T10:00:00Z");
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lead = await addActor("Lea", "lead");
});
afterAll(closeDatabase);

const line = (n: number): string =>
  `Customer ${n % 40},Site ${n % 200},"Street ${n}, ""Old"" Harbour",Europe/Lisbon,${(n % 200) * 2},07:00-10:00,Room ${n % 7},M-${n},Machine ${n},${["flake-ice-maker", "slide-stainer", "wide-format-printer", "ride-on-sweeper"][n % 4]},side-brooms,`;
const count = async (table: string): Promise<number> =>
  must((await getDb().select<{ total: number }>(`SELECT COUNT(*) AS total FROM ${table}`))[0]).total;

it("takes 5,000 machines with their duties, showing how far it is, and gives the same data back", async () => {
  // A site's address is the same on all its rows.
  const rows = Array.from({ length: 5000 }, (_, n) => line(n).replace(`Street ${n}`, `Street ${n % 200}`));
  const id = await checkImport(lead, "big.csv", [HEADER, ...rows].join("\r\n"), NOW);
  expect(await getImport(id, NOW)).toMatchObject({ status: "checked", goodRows: 5000, faults: [] });
  expect(await count("machines")).toBe(0);
  await claimImport(id, NOW);
  const seen = new Set<number>();
  const work = applyImport(id, NOW);
  const watch = setInterval(() => void getImport(id, NOW).then((one) => seen.add(one.rowsDone)), 100);
  await work;
  clearInterval(watch);
  expect(await getImport(id, NOW)).toMatchObject({ status: "done", rowsDone: 5000 });
  expect(seen.size).toBeGreaterThan(2);
  expect(await count("machines")).toBe(5000);
  expect(await count("duties")).toBe(5000 + 2 * 1250); // the stainers have three each

  const exported = await exportMachines();
  const again = await checkImport(lead, "again.csv", exported, NOW);
  expect(await getImport(again, NOW)).toMatchObject({ goodRows: 5000, faults: [] });
  await claimImport(again, NOW);
  await applyImport(again, NOW);
  expect(await exportMachines()).toBe(exported);
  expect(await count("duties")).toBe(7500);
}, 120_000);

it("one whose process died says so, and can be begun again by one alone", async () => {
  const id = await checkImport(
    lead,
    "died.csv",
    [HEADER, "Co,New,,Europe/Lisbon,,,,Z-1,Left,flake-ice-maker,,"].join("\n"),
    NOW,
  );
  const after = (seconds: number): Date => new Date(NOW.getTime() + seconds * 1000);
  expect(await claimImport(id, NOW)).toBe(true);
  expect(await getImport(id, after(50))).toMatchObject({ status: "running", stopped: false });
  expect(await claimImport(id, after(50))).toBe(false);
  expect(await getImport(id, after(70))).toMatchObject({ status: "running", stopped: true });
  expect(await Promise.all([claimImport(id, after(70)), claimImport(id, after(70))])).toEqual(
    expect.arrayContaining([true, false]),
  );
  await applyImport(id, after(70));
  expect(await getImport(id, after(80))).toMatchObject({ status: "done", stopped: false, rowsDone: 1 });
});

it("puts the good rows in, lists the bad ones, and writes nothing of a file that fails half-way", async () => {
  const id = await checkImport(
    lead,
    "mixed.csv",
    [
      HEADER,
      "Co,New,,Europe/Lisbon,,,,G-1,Good one,flake-ice-maker,,",
      "Co,New,,Nowhere/Land,x,,,G 2,,Flake!,,2026-13-01",
    ].join("\n"),
    NOW,
  );
  const found = await getImport(id, NOW);
  expect(found.goodRows).toBe(1);
  expect(found.faults.map((fault) => [fault.line, fault.column]).sort()).toEqual([
    [3, "duties_from"],
    [3, "family"],
    [3, "name"],
    [3, "tag"],
    [3, "time_zone"],
    [3, "water_hardness_mg_l"],
  ]);
  await claimImport(id, NOW);
  await applyImport(id, NOW);
  expect((await listMachines({ q: "G-1" })).rows.map((row) => row.tag)).toEqual(["G-1"]);

  // A machine that appears between check and import makes the insert fail: then nothing of the file may be there.
  const half = await checkImport(
    lead,
    "half.csv",
    [
      HEADER,
      "Co,New,,Europe/Lisbon,,,,H-1,One,flake-ice-maker,,",
      "Co,New,,Europe/Lisbon,,,,H-2,Two,flake-ice-maker,,",
    ].join("\n"),
    NOW,
  );
  await claimImport(half, NOW);
  await getDb().run(
    "CREATE TRIGGER refuse_h2 BEFORE INSERT ON machines FOR EACH ROW BEGIN IF NEW.tag = 'H-2' THEN SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'disk full'; END IF; END",
  );
  await expect(applyImport(half, NOW)).rejects.toThrow("disk full");
  await getDb().run("DROP TRIGGER refuse_h2");
  expect(await getImport(half, NOW)).toMatchObject({
    status: "failed",
    message: expect.stringContaining("Nothing was written"),
  });
  expect((await listMachines({ q: "H-1" })).rows).toEqual([]);
  expect(await claimImport(half, NOW)).toBe(true);
});

it("lets one process alone run an import", async () => {
  const id = await checkImport(
    lead,
    "once.csv",
    [HEADER, "Co,New,,Europe/Lisbon,,,,O-1,One,flake-ice-maker,,"].join("\n"),
    NOW,
  );
  const claims = await Promise.all([1, 2, 3].map(() => claimImport(id, NOW)));
  expect(claims.filter(Boolean)).toHaveLength(1);
});

it("brings a known machine up to date, and its scale-related duties to the new water", async () => {
  const row = (water: string, name: string) =>
    `Scale Co,Scale site,,Europe/Lisbon,${water},,,S-1,${name},flake-ice-maker,,2026-06-10`;
  await importLines(lead, [row("50", "Ice")], NOW);
  const due = async () =>
    must(await getDb().models.Duty.findByPk(await dutyOf("S-1", "flake-ice-maker-clean-sanitise"), { raw: true }))
      .dueOn;
  expect(await due()).toBe("2027-06-10");
  await importLines(lead, [row("320", "Ice renamed")], NOW);
  expect(await due()).toBe("2026-12-09");
  expect((await listMachines({ q: "S-1" })).rows).toMatchObject([{ name: "Ice renamed" }]);
});

it("names the machine that has a serial number already", async () => {
  const file = (tag: string) =>
    `customer,site,time_zone,tag,name,family,maker,model,serial\nCo,New,Europe/Lisbon,${tag},N,flake-ice-maker,M,X,SN-9`;
  const first = await checkImport(lead, "a.csv", file("D-1"), NOW);
  await claimImport(first, NOW);
  await applyImport(first, NOW);
  expect((await getImport(await checkImport(lead, "b.csv", file("D-2"), NOW), NOW)).faults).toMatchObject([
    { line: 2, column: "serial", reason: expect.stringContaining("D-1") },
  ]);
});

it("leaves what a file has no column for as the register has it", async () => {
  const put = async (content: string): Promise<void> => {
    const id = await checkImport(lead, "part.csv", content, NOW);
    await claimImport(id, NOW);
    await applyImport(id, NOW);
  };
  await put(
    "customer,site,time_zone,tag,name,family,address,water_hardness_mg_l,access_hours,notes,position,options\nK,Keep,UTC,K-1,Kept,flake-ice-maker,Quay 9,120,08:00-12:00,Mind the step,Left,water-filter",
  );
  await put("customer,site,time_zone,tag,name,family\nK,Keep,UTC,K-1,Renamed,flake-ice-maker");
  const [row] = await getDb().select(
    "SELECT m.name, m.notes, m.position, m.options, s.address, s.water_hardness AS water, s.access_hours AS hours FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.tag = 'K-1'",
  );
  expect(row).toEqual({
    name: "Renamed",
    notes: "Mind the step",
    position: "Left",
    options: ["water-filter"],
    address: "Quay 9",
    water: 120,
    hours: "08:00-12:00",
  });
});

it("gives any text back as it was, through export and import", () => {
  const text = fc.string({
    unit: fc.constantFrom("a", "é", " ", "'", '"', ",", ";", "\n", "\r", "\t", "=", "+", "-", "@", "1", "漢"),
    maxLength: 12,
  });
  fc.assert(
    fc.property(
      fc.array(fc.tuple(text, text, text, fc.option(fc.double({ min: 0, max: 5000, noNaN: true }), { nil: null })), {
        minLength: 1,
        maxLength: 6,
      }),
      (rows) => {
        const records: MachineRecord[] = rows.map(([name, notes, area, hardness], i) => ({
          customer: "C",
          site: `S${i}`,
          address: "",
          time_zone: "UTC",
          water_hardness_mg_l: hardness,
          access_hours: "",
          area,
          tag: `T-${i}`,
          name: name === "" ? "n" : name,
          family: "flake-ice-maker",
          maker: "=1+1",
          model: "'quoted",
          serial: "",
          commissioned_on: null,
          duties_from: "2026-01-31",
          options: ["a-b"],
          notes,
          latitude: hardness === null ? null : hardness / 100,
          longitude: null,
          holiday_region: "",
          drain_rules: area,
          waste_rules: "",
          position: name,
        }));
        const parsed = parseMachineCsv(writeMachineCsv(records));
        expect(parsed.faults).toEqual([]);
        expect(parsed.good.map((row) => row.record)).toEqual(records);
      },
    ),
    { seed: 20261124, numRuns: 300 },
  );
  expect(COLUMNS).toContain("duties_from");
});

it("asks about families that are not known and days that may be two, and takes them as they are answered", async () => {
  const rows = [
    "C9,S9,,Europe/Lisbon,,,Hall,Q-1,One,Flake ice maker,,3/4/2026",
    "C9,S9,,Europe/Lisbon,,,Hall,Q-2,Two,flake-ice-makr,,3/5/2026",
    "C9,S9,,Europe/Lisbon,,,Hall,Q-3,Three,coffee-grinder,,",
  ];
  const first = await checkImport(lead, "q.csv", [HEADER, ...rows].join("\n"), NOW);
  expect(await getImport(first, NOW)).toMatchObject({
    goodRows: 0,
    faults: [
      { line: 2, column: "duties_from" },
      { line: 3, column: "duties_from" },
    ],
    asks: {
      day: { text: "3/4/2026", either: ["2026-04-03", "2026-03-04"] },
      families: [{ said: "coffee-grinder", nearest: null, rows: 1 }],
    },
  });
  const second = await answerImport(lead, first, { dayOrder: "day-first" }, NOW);
  expect(await getImport(second, NOW)).toMatchObject({
    goodRows: 1,
    faults: [],
    asks: {
      day: null,
      families: [
        { said: "flake-ice-makr", nearest: "flake-ice-maker", rows: 1 },
        { said: "coffee-grinder", nearest: null, rows: 1 },
      ],
    },
  });
  const families = { "flake-ice-makr": "flake-ice-maker", "coffee-grinder": "coffee-grinder" };
  const third = await answerImport(lead, second, { families }, NOW);
  expect(await getImport(third, NOW)).toMatchObject({ goodRows: 3, asks: { day: null, families: [] } });
  await claimImport(third, NOW);
  await applyImport(third, NOW);
  await expect(answerImport(lead, third, { families: {} }, NOW)).rejects.toMatchObject({ status: 409 });
  const made = await getDb().models.Machine.findAll({
    attributes: ["tag", "family", "dutiesFrom"],
    where: { tag: ["Q-1", "Q-2", "Q-3"] },
    order: ["tag"],
    raw: true,
  });
  expect(made).toEqual([
    { tag: "Q-1", family: "flake-ice-maker", dutiesFrom: "2026-04-03" },
    { tag: "Q-2", family: "flake-ice-maker", dutiesFrom: "2026-05-03" },
    { tag: "Q-3", family: "coffee-grinder", dutiesFrom: null },
  ]);
});
