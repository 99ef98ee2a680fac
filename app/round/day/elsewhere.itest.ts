import { must } from "@core";
import { getDb } from "@db";

import { openSheet } from "~/sheet/log/sheets.server";
import { workElsewhere } from "~/sheet/work-elsewhere.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { beginRound, kim, later, mo, NOW, ON } from "~/testing/round";

import { planAndKeep } from "./day.server";
import { putOnDay } from "./put-on-day.server";

beforeAll(beginRound);
afterAll(closeDatabase);

it("while a clock runs the day's plan says which machine is next: open sheets first, then what is not begun", async () => {
  const duties: [string, string][] = [
    ["D-1", "conveyor-oven-weekly"],
    ["D-2", "slide-stainer-chambers"],
    ["D-3", "flake-ice-maker-clean-sanitise"],
  ];
  const ids = await Promise.all(duties.map(([tag, procedure]) => dutyOf(tag, procedure)));
  await putOnDay(mo, ids, { on: ON, personId: mo.id }, NOW);
  const plan = await planAndKeep(mo, mo.id, ON, null, NOW);
  const [oven, stainer, ice] = ids as [string, string, string];
  const duty = must(await getDb().models.Duty.findByPk(oven, { raw: true }));
  const sheetId = await openSheet(mo, oven, "phone", later(1));
  const here = { sheetId, dutyId: oven, siteId: must(plan.stops[0]).site };
  expect(here.siteId).toBe((await getDb().models.Machine.findByPk(duty.machineId, { raw: true }))?.siteId);

  const firstStart = (id: string): number =>
    Math.min(
      ...must(plan.stops[0])
        .schedule.phases.filter((one) => one.job.startsWith(id))
        .map((one) => one.start),
    );
  const inOrder = [stainer, ice].sort((a, b) => firstStart(a) - firstStart(b));
  expect((await workElsewhere(mo.id, here, ON)).map((one) => one.to)).toEqual(inOrder.map((id) => `/duties/${id}`));

  // Begun, it comes before what is not, and says what is next on it; a colleague's sheet is theirs.
  const last = must(inOrder[1]);
  const begun = await openSheet(mo, last, "phone", later(2));
  expect(await workElsewhere(mo.id, here, ON)).toMatchObject([
    { to: `/sheet/${begun}`, what: expect.stringMatching(/./) },
    { to: `/duties/${must(inOrder[0])}` },
  ]);
  await openSheet(kim, must(inOrder[0]), "phone", later(3));
  expect((await workElsewhere(mo.id, here, ON)).map((one) => one.to)).toEqual([`/sheet/${begun}`]);
  expect(await workElsewhere(mo.id, { ...here, siteId: sheetId }, ON)).toEqual([]);
});
