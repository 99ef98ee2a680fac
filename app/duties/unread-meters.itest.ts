import { addDays, must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { logMeterReading } from "~/machines/meters.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { assessMachine } from "./assess.server";
import { unreadMeters } from "./unread-meters.server";

const NOW = new Date("2026-06-10T08:00:00Z");
const TODAY = "2026-06-10";
let lead: Actor;
let machineId: string;
let duty: string;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  lead = await addActor("Lea", "lead");
  await importLines(
    lead,
    [
      "Co,Works,,Europe/Lisbon,,,Hall,M-1,Sweeper,ride-on-sweeper,,2026-06-01",
      "Co,Works,,Europe/Lisbon,,,Hall,M-2,Cabinet,prep-cabinet,,2026-06-01",
    ],
    NOW,
  );
  machineId = must(await getDb().models.Machine.findOne({ where: { tag: "M-1" }, raw: true })).id;
  duty = await dutyOf("M-1", "ride-on-sweeper-100h");
});
afterAll(closeDatabase);

const read = (value: number, on: string): Promise<unknown> =>
  logMeterReading(lead, machineId, { meter: "running-hours", value }, new Date(`${on}T09:00:00Z`));
const asked = async (today: string, of: string | null = null) =>
  (await unreadMeters(today, of)).filter((one) => one.machineId === machineId && one.meter === "running-hours");

it("asks for the meter of a duty that has no day, with a day by past completions, until it is read", async () => {
  const [first] = await asked(TODAY);
  expect(first).toMatchObject({ machineTag: "M-1", siteName: "Works", lastReadOn: null });
  expect(must(first).duties.find((one) => one.dutyId === duty)).toMatchObject({ about: null });
  expect(await asked(TODAY, machineId)).toHaveLength(1);
  expect((await unreadMeters(TODAY)).map((one) => one.machineTag)).not.toContain("M-2");

  for (const doneOn of ["2026-04-01", "2026-05-01"])
    await getDb().models.Completion.create({
      id: uuidv7(),
      dutyId: duty,
      machineId,
      doneOn,
      meters: {},
      sheetId: null,
      credits: null,
    });
  const [forecast] = await asked(TODAY);
  expect(must(forecast).duties.find((one) => one.dutyId === duty)).toMatchObject({ about: "2026-05-31" });

  // One reading makes no rate yet: another one is asked for, on another day.
  await read(400, "2026-06-10");
  expect(await asked(TODAY)).toEqual([]);
  expect(await asked(addDays(TODAY, 1))).toMatchObject([{ lastReadOn: "2026-06-10" }]);
  await read(440, "2026-06-20");
  expect(await asked("2026-06-20")).toEqual([]);
});

it("asks again when the forecast day has come without a reading, also when it is assessed anew each day", async () => {
  const due = must(must(await getDb().models.Duty.findByPk(duty, { raw: true })).dueOn);
  expect(await asked(addDays(due, -1))).toEqual([]);
  expect(must((await asked(due))[0]).duties.map((one) => one.expected)).toContain(due);
  expect(await asked(addDays(due, 1))).toMatchObject([{ lastReadOn: "2026-06-20" }]);
  const [late] = await asked(addDays(due, 1));
  expect(must(late).duties.find((one) => one.dutyId === duty)).toMatchObject({ expected: due, about: null });

  const later = addDays(due, 3);
  await assessMachine(machineId, new Date(`${later}T06:00:00Z`));
  expect(must((await asked(later))[0]).duties.map((one) => one.expected)).toContain(later);
});
