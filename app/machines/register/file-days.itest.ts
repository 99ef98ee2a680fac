import { must } from "@core";
import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { checkImport, getImport } from "./imports.server";
import { machinesTemplate } from "./machines-template.server";
import { importReadings, readingsTemplate } from "./meter-csv.server";

const NOW = new Date("2026-06-10T08:00:00Z");
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lead = await addActor("Lea", "lead");
  await importLines(lead, ["Co,Works,,Europe/Lisbon,,,Hall,R-4,Printer,wide-format-printer,,2026-06-01"], NOW);
});
afterAll(closeDatabase);

const readings = (...days: string[]): string =>
  ["tag,meter,value,read_at", ...days.map((day, i) => `R-4,prints,${10 + i},${day}`)].join("\n");

it("readings have their days as a file writes them; which figure comes first is told by others, or asked", async () => {
  const unsure = await importReadings(lead, readings("3/4/2026", "4.4.2026"), {}, NOW);
  expect(unsure).toMatchObject({ added: null, faults: [{ line: 2, column: "read_at" }] });
  expect(must(unsure.faults[0]).reason).toContain("2026-04-03 or 2026-03-04");
  const dayOrder = "month-first" as const;
  expect(await importReadings(lead, readings("3/4/2026"), { dayOrder }, NOW)).toMatchObject({ added: 1, faults: [] });
  expect(await importReadings(lead, readings("3/4/2026", "13/4/2026"), {}, NOW)).toMatchObject({
    added: 2,
    faults: [],
  });
  const rows = await getDb().models.MeterReading.findAll({ attributes: ["readOn"], order: ["readOn"], raw: true });
  expect(rows.map((row) => row.readOn)).toEqual(["2026-03-04", "2026-04-03", "2026-04-13"]);
});

it("files to fill in are read as they come, but for the row that shows how", async () => {
  const id = await checkImport(lead, "machines.csv", machinesTemplate(), NOW);
  expect(await getImport(id, NOW)).toMatchObject({ goodRows: 1, faults: [], asks: { families: [], day: null } });
  // A reading needs its machine: the example's is none.
  const { good, faults } = await importReadings(lead, readingsTemplate(), {}, NOW);
  expect({ good, faults }).toMatchObject({ good: 0, faults: [{ line: 2, column: "tag" }] });
});
