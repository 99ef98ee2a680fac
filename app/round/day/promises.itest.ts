import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { dutyForEdit } from "~/duties/duties.server";
import type { Actor } from "~/kit/actor";
import { proposeWeek } from "~/round/week/propose-week.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { workAndSign } from "~/testing/sheets";

import { pinToDay, putOnDay } from "./put-on-day.server";

/** A Wednesday. */
const NOW = new Date("2026-06-10T07:00:00Z");
let mo: Actor;
let kim: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  mo = await addActor("Mo");
  kim = await addActor("Kim");
  lead = await addActor("Lea", "lead");
  await importLines(
    lead,
    [
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,R-1,Oven,conveyor-oven,,2026-05-01",
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,R-2,Sweeper,ride-on-sweeper,,2026-06-01",
    ],
    new Date("2026-05-01T10:00:00Z"),
  );
});
afterAll(closeDatabase);

const planned = async (dutyId: string): Promise<[string | null, string | null, boolean]> => {
  const row = must(await getDb().models.Duty.findByPk(dutyId, { raw: true }));
  return [row.plannedOn, row.plannedFor, row.pinned];
};

describe("a duty that is pinned to its day", () => {
  it("is given up by the day once it is done, pin and all: the next one is free again", async () => {
    const dutyId = await dutyOf("R-1", "conveyor-oven-weekly");
    await putOnDay(mo, [dutyId], { on: "2026-06-10", personId: mo.id }, NOW);
    await pinToDay(mo, [dutyId], true, { on: "2026-06-10", personId: mo.id }, NOW);
    expect(await planned(dutyId)).toEqual(["2026-06-10", mo.id, true]);
    await expect(putOnDay(mo, [dutyId], { on: "2026-06-12", personId: mo.id }, NOW)).rejects.toMatchObject({
      code: "pinned",
    });
    await workAndSign(mo, "R-1", "conveyor-oven-weekly", NOW);
    expect(await planned(dutyId)).toEqual([null, null, false]);
    await putOnDay(kim, [dutyId], { on: "2026-06-17", personId: kim.id }, NOW);
    await putOnDay(kim, [dutyId], { on: "2026-06-18", personId: kim.id }, NOW);
    expect(await planned(dutyId)).toEqual(["2026-06-18", kim.id, false]);
  });

  it("keeps its pin while the machine's other duties are done", async () => {
    const dutyId = await dutyOf("R-1", "conveyor-oven-weekly");
    await pinToDay(kim, [dutyId], true, { on: "2026-06-18", personId: kim.id }, NOW);
    const other = must(
      (
        await getDb().select<{ procedureId: string }>(
          "SELECT d.procedure_id AS procedureId FROM duties d JOIN machines m ON m.id = d.machine_id WHERE m.tag = 'R-1' AND d.id <> :dutyId AND d.who = 'technician' LIMIT 1",
          { dutyId },
        )
      )[0],
    );
    await workAndSign(mo, "R-1", other.procedureId, new Date(NOW.getTime() + 6 * 3_600_000));
    expect(await planned(dutyId)).toEqual(["2026-06-18", kim.id, true]);
  });
});

describe("licensed work in the week's proposal", () => {
  it("goes to nobody without the authorisation, and to who has it while it is valid", async () => {
    const dutyId = await dutyOf("R-2", "ride-on-sweeper-daily");
    const { settings } = await dutyForEdit(dutyId, NOW);
    expect(settings.who).toBe("technician");
    await getDb().models.Duty.update({ who: "licensed", authorisation: "licensed-gas" }, { where: { id: dutyId } });
    const giver = async (): Promise<string | null> => {
      const week = await proposeWeek("2026-06-15", NOW);
      const route = week.days.find((one) => one.stops.some((stop) => stop.duties.some((duty) => duty.id === dutyId)));
      expect(week.left.some((one) => one.id === dutyId)).toBe(route === undefined);
      return route?.person ?? null;
    };
    expect(await giver()).toBeNull();
    const authorisation = { id: uuidv7(), personId: kim.id, kind: "licensed-gas", grantedBy: lead.id, grantedAt: NOW };
    await getDb().models.Authorisation.create({ ...authorisation, expiresOn: "2026-06-11" });
    // It runs out before the week begins.
    expect(await giver()).toBeNull();
    await getDb().models.Authorisation.update({ expiresOn: "2027-01-01" }, { where: { id: authorisation.id } });
    expect(await giver()).toBe(kim.id);
    await getDb().models.Authorisation.update({ revokedAt: NOW }, { where: { id: authorisation.id } });
    expect(await giver()).toBeNull();
  });
});
