import { addDays, must } from "@core";
import { type DutyRules, getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { changesOf } from "~/kit/server/audit.server";
import { logOccurrence } from "~/machines/machines.server";
import { addClosure, cancelClosure, changeSite, getSite, type SiteSettings } from "~/machines/sites/sites.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { assessAll } from "./assess.server";
import { getDuty } from "./due.server";
import {
  addDuty,
  changeDuty,
  dutyForEdit,
  type DutySettings,
  listPauses,
  pause,
  proposedDuties,
  resume,
  tryDuty,
} from "./duties.server";
import { OWN_DUTY } from "./general-procedures";

/** A Wednesday. */
const NOW = new Date("2026-06-10T10:00:00Z");
const days = (count: number): Date => new Date(NOW.getTime() + count * 86_400_000);
let lead: Actor;
let machineId: string;
let siteId: string;
let own: string;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lead = await addActor("Lea", "lead");
  await importLines(lead, ["Co,Works,,Europe/Lisbon,,,Hall,P-1,Mill,dental-mill,,2026-06-01"], NOW);
  const [machine] = await getDb().select<{ id: string; siteId: string }>(
    "SELECT id, site_id AS siteId FROM machines WHERE tag = 'P-1'",
  );
  machineId = must(machine).id;
  siteId = must(machine).siteId;
  own = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Drain the tank" }, NOW);
});
afterAll(closeDatabase);

const setRules = async (dutyId: string, rules: DutyRules, more: Partial<DutySettings> = {}): Promise<void> => {
  const { settings } = await dutyForEdit(dutyId, NOW);
  await changeDuty(
    lead,
    dutyId,
    { settings: { ...settings, startOn: "2026-06-01", ...more, rules }, reason: "test" },
    NOW,
  );
};
const dueOn = async (dutyId: string, now = NOW): Promise<string | null> => must(await getDuty(dutyId, now)).row.dueOn;
/** Done on a day, as a signed sheet would store it. */
const doneOn = async (dutyId: string, on: string, now = NOW): Promise<void> => {
  await getDb().models.Completion.create({ id: uuidv7(), dutyId, machineId, doneOn: on, meters: {}, sheetId: null });
  await logOccurrence(lead, machineId, { event: "nothing", on, note: "" }, now);
};
const siteSettings = async (change: Partial<SiteSettings>): Promise<SiteSettings> => {
  const { id: _, customerId: __, customerName: ___, ...settings } = (await getSite(siteId, NOW)).site;
  return { ...settings, ...change };
};

describe("a duty's rules", () => {
  const weekly: DutyRules = { triggers: [{ kind: "calendar", every: 1, unit: "week", basis: "grid", weekday: 5 }] };

  it("are tried without storing, then changed with the reason, and the old ones stay readable", async () => {
    const { settings } = await dutyForEdit(own, NOW);
    expect((await tryDuty(own, { ...settings, startOn: "2026-06-01", rules: weekly }, NOW)).dueOn).toBe("2026-06-12");
    expect((await dutyForEdit(own, NOW)).settings).toEqual(settings);
    await changeDuty(
      lead,
      own,
      { settings: { ...settings, startOn: "2026-06-01", rules: weekly }, reason: "Friday suits the clinic" },
      NOW,
    );
    expect(await dueOn(own)).toBe("2026-06-12");
    const [change] = await changesOf("duty", [own]);
    expect(change).toMatchObject({
      action: "changed",
      by: "Lea",
      details: { reason: "Friday suits the clinic", old: { rules: settings.rules }, new: { rules: weekly } },
    });
  });

  it("that the engine refuses change nothing", async () => {
    const { settings } = await dutyForEdit(own, NOW);
    const bad = {
      ...settings,
      rules: {
        triggers: [
          { kind: "calendar" as const, every: 1, unit: "month" as const, basis: "grid" as const, weekday: 5 as const },
        ],
      },
    };
    await expect(changeDuty(lead, own, { settings: bad, reason: "no" }, NOW)).rejects.toMatchObject({
      status: 422,
      message: expect.stringContaining("weekday"),
    });
    expect((await dutyForEdit(own, NOW)).settings.rules).toEqual(weekly);
  });

  it("can set off a second half on the site's next open day", async () => {
    await changeSite(lead, siteId, await siteSettings({ accessHours: "Mon-Fri 08:00-17:00; Sat, Sun closed" }), NOW);
    await setRules(own, { ...weekly, emits: [{ event: "refill", on: "next-open-day" }] });
    const refill = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Refill the tank" }, NOW);
    await setRules(refill, { triggers: [{ kind: "event", event: "refill" }] });
    expect(await dueOn(refill)).toBeNull();
    await doneOn(own, "2026-06-12", days(2));
    expect(await dueOn(refill, days(2))).toBe("2026-06-15");
    await addClosure(lead, siteId, { fromOn: "2026-06-15", toOn: "2026-06-15", reason: "Works holiday" }, days(2));
    expect(await dueOn(refill, days(2))).toBe("2026-06-16");
    await doneOn(refill, "2026-06-16", days(6));
    expect(await dueOn(refill, days(6))).toBeNull();
  });

  it("before standing idle follow weekends, closures and public holidays", async () => {
    const prime = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Prime before idle" }, NOW);
    await setRules(prime, { triggers: [{ kind: "event", event: "idle-ahead" }] }, { startOn: "2026-06-10" });
    expect(await dueOn(prime)).toBe("2026-06-12");
    await doneOn(prime, "2026-06-12", days(2));
    // The closure of the 15th belongs to the same stretch; the next is the Friday after.
    expect(await dueOn(prime, days(2))).toBe("2026-06-19");
    const { closures } = await getSite(siteId, days(2));
    await cancelClosure(lead, siteId, must(closures[0]).id, days(2));
    await setRules(
      prime,
      { triggers: [{ kind: "event", event: "idle-ahead" }], idleDays: 3 },
      { startOn: "2026-06-10" },
    );
    expect(await dueOn(prime, days(2))).toBeNull();
    // The package `date-holidays`: Republic Day, 5 October 2026, is a Monday, so a weekend becomes three days.
    await changeSite(lead, siteId, await siteSettings({ holidayRegion: "PT" }), days(2));
    expect(await dueOn(prime, days(2))).toBe("2026-10-02");
    await expect(changeSite(lead, siteId, await siteSettings({ holidayRegion: "QQ" }), NOW)).rejects.toMatchObject({
      status: 422,
    });
  });

  it("count for duties of the machine's own that they contain", async () => {
    const small = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Small" }, NOW);
    const large = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Large" }, NOW);
    const monthly: DutyRules = { triggers: [{ kind: "calendar", every: 1, unit: "month", basis: "completion" }] };
    await setRules(small, monthly);
    expect((await dutyForEdit(large, NOW)).others).toContainEqual({ key: small, title: "Small" });
    await setRules(large, { ...monthly, covers: [small] });
    await doneOn(large, "2026-06-10");
    expect([await dueOn(small), await dueOn(own)]).toEqual(["2026-07-10", expect.not.stringMatching("2026-07-10")]);
  });

  it("proposes what the family has and the machine has not", async () => {
    expect(await proposedDuties(machineId)).toEqual([]);
    await expect(
      addDuty(lead, machineId, { procedureId: "ride-on-sweeper-daily", title: null }, NOW),
    ).rejects.toMatchObject({ status: 422 });
  });
});

describe("a pause", () => {
  it("of a machine takes its duties off the list, and gives them back without a wall of overdue", async () => {
    const monthly = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Monthly" }, NOW);
    await setRules(
      monthly,
      { triggers: [{ kind: "calendar", every: 1, unit: "month", basis: "completion" }] },
      { startOn: "2026-06-01" },
    );
    expect(await dueOn(monthly)).toBe("2026-07-01");
    await pause(lead, machineId, { dutyId: null, fromOn: null, toOn: null, reason: "In store" }, NOW);
    expect(await dueOn(monthly)).toBeNull();
    const later = days(100);
    const [open] = await listPauses(machineId, "2026-09-18");
    expect(open).toMatchObject({ fromOn: "2026-06-10", toOn: null, reason: "In store", by: "Lea", open: true });
    await resume(lead, must(open).id, later);
    // 9 of 30 days were used on 10 June: 21 are left from 18 September.
    expect(await dueOn(monthly, later)).toBe("2026-10-09");
    expect((await listPauses(machineId, "2026-09-18"))[0]).toMatchObject({ toOn: "2026-09-18", open: false });
    await resume(lead, must(open).id, days(120));
    expect(must((await listPauses(machineId, "2026-09-18"))[0]).toOn).toBe("2026-09-18");
    const overdue = await getDb().select<{ title: string; dueOn: string }>(
      "SELECT title, due_on AS dueOn FROM duties WHERE machine_id = :machineId AND due_on < '2026-09-18'",
      { machineId },
    );
    expect(overdue).toEqual([]);
  });
  it("cannot end before it begins", async () => {
    await expect(
      pause(lead, machineId, { dutyId: null, fromOn: "2026-10-02", toOn: "2026-10-01", reason: "x" }, NOW),
    ).rejects.toMatchObject({ status: 422 });
  });

  it("that is taken back before it begins never was: nothing moves, and it has no days", async () => {
    await setRules(own, { triggers: [{ kind: "calendar", every: 3, unit: "month", basis: "grid" }] });
    const before = await dueOn(own);
    await pause(lead, machineId, { dutyId: own, fromOn: "2026-07-01", toOn: "2026-08-01", reason: "Holidays" }, NOW);
    const planned = (await listPauses(machineId, "2026-06-10")).find((one) => one.reason === "Holidays");
    await resume(lead, must(planned).id, NOW);
    const row = must(await getDb().models.Pause.findByPk(must(planned).id, { raw: true }));
    // It ends on the day it would have begun, not today, before it.
    expect([row.fromOn, row.toOn]).toEqual(["2026-07-01", "2026-07-01"]);
    expect(await dueOn(own)).toBe(before);
    const after = (await listPauses(machineId, "2026-06-10")).find((one) => one.reason === "Holidays");
    expect(must(after).open).toBe(false);
    // Pressing it again changes nothing.
    await resume(lead, must(planned).id, days(40));
    expect(must(await getDb().models.Pause.findByPk(must(planned).id, { raw: true })).toOn).toBe("2026-07-01");
  });
});

describe("a day that a duty is put on", () => {
  it("is kept, undone, numbered for calendars, and given up when the work is done", async () => {
    const plan = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Planned" }, days(130));
    const read = async () => must(await getDb().models.Duty.findByPk(plan, { raw: true }));
    const before = await putOnDay(lead, [plan], { on: "2026-10-20", personId: lead.id }, days(130));
    expect(await read()).toMatchObject({ plannedOn: "2026-10-20", plannedFor: lead.id, sequence: 1 });
    await putOnDay(lead, [plan], { on: "2026-10-20", personId: lead.id }, days(130));
    expect((await read()).sequence).toBe(1);
    for (const one of before) await putOnDay(lead, [one.dutyId], { on: one.on, personId: one.personId }, days(130));
    expect(await read()).toMatchObject({ plannedOn: null, plannedFor: null, sequence: 2 });
    await putOnDay(lead, [plan], { on: "2026-10-21", personId: null }, days(130));
    await doneOn(plan, "2026-10-21", days(133));
    expect(await read()).toMatchObject({ plannedOn: null, anchorOn: "2026-10-21" });
  });
  it("takes at least one duty and not thousands", async () => {
    await expect(putOnDay(lead, [], { on: "2026-10-20", personId: null }, NOW)).rejects.toMatchObject({ status: 422 });
    await expect(
      putOnDay(
        lead,
        Array.from({ length: 201 }, () => uuidv7()),
        { on: "2026-10-20", personId: null },
        NOW,
      ),
    ).rejects.toMatchObject({ status: 413 });
  });
});

describe("due days hold by themselves", () => {
  /** Clocks change in Lisbon on 25 October 2026 and in Auckland on 27 September 2026. */
  it.each(["Europe/Lisbon", "Pacific/Auckland", "America/St_Johns", "Pacific/Kiritimati"])(
    "over a year of days, restarts and clock changes in %s",
    async (timeZone) => {
      const tag = `Z-${timeZone.length}${timeZone.slice(0, 3)}`;
      await importLines(lead, [`Zones,${timeZone},,${timeZone},,,,${tag},Sweeper,ride-on-sweeper,,2026-06-01`], NOW);
      const plan = await dutyOf(tag, "ride-on-sweeper-daily");
      await setRulesOf(plan, { triggers: [{ kind: "calendar", every: 14, unit: "day", basis: "grid" }] });
      const format = new Intl.DateTimeFormat("sv-SE", { timeZone, dateStyle: "short" });
      for (let hour = 0; hour < 24 * 400; hour += 7) {
        const at = new Date(NOW.getTime() + hour * 3_600_000);
        const { row } = must(await getDutyRow(plan, at));
        const today = format.format(at);
        expect([row.today, row.dueOn, row.state]).toEqual([
          today,
          "2026-06-15",
          today < "2026-06-15"
            ? expect.stringMatching(/later|notice|warning/)
            : today === "2026-06-15"
              ? "due"
              : "overdue",
        ]);
        if (hour > 24 * 20) hour += 24 * 9;
      }
    },
  );
  const setRulesOf = async (dutyId: string, rules: DutyRules): Promise<void> => {
    const { settings } = await dutyForEdit(dutyId, NOW);
    await changeDuty(lead, dutyId, { settings: { ...settings, startOn: "2026-06-01", rules }, reason: "test" }, NOW);
  };
  const getDutyRow = getDuty;

  it("and assessing everything changes nothing that was right", async () => {
    const later = days(3);
    await assessAll(later);
    expect(await assessAll(later)).toMatchObject({ changed: 0 });
    await getDb().run("UPDATE duties SET due_on = '2000-01-01' WHERE id = :own", { own });
    expect(await assessAll(later)).toMatchObject({ changed: 1 });
    expect(await dueOn(own, later)).not.toBe(addDays("2000-01-01", 0));
  });
});
