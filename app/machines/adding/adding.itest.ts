import { must } from "@core";
import { getDb, type MachineRow } from "@db";

import { firstDutiesOf, takeFirstDuties } from "~/duties/first-duties.server";
import type { Actor } from "~/kit/actor";
import { changesOf } from "~/kit/server/audit.server";
import { listMachines } from "~/machines/machines.server";
import { addSite } from "~/machines/sites/new-site.server";
import { addActor, closeDatabase, freshDatabase, publishShipped } from "~/testing/database";

import { addedToCheck, checkAdded } from "./added.server";
import { addingNames, addMachine, type NewMachine, nextTag } from "./new-machine.server";
import { OTHER_FAMILY } from "./new-machine-schemas";

const NOW = new Date("2026-06-10T08:00:00Z");
const TODAY = "2026-06-10";
let lead: Actor;
let ada: Actor;
let bo: Actor;

const SITE = { customer: "Harbour Trust", name: "Boatyard", address: "", timeZone: "Europe/Lisbon", accessHours: "" };
const given = (more: Partial<NewMachine> = {}): NewMachine => ({
  site: "Boatyard",
  tag: "T-1",
  family: "ride-on-sweeper",
  otherFamily: "",
  familyIsNew: false,
  name: "Sweeper",
  serial: "",
  area: "",
  maker: "",
  model: "",
  options: [],
  meters: [],
  photo: null,
  like: null,
  ...more,
});
const machineOf = async (id: string): Promise<MachineRow> =>
  must(await getDb().models.Machine.findByPk(id, { raw: true }));
const refused = (code: string, message: RegExp) => ({
  code,
  message: expect.stringMatching(message) as string,
});

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  lead = await addActor("Lea", "lead");
  ada = await addActor("Ada");
  bo = await addActor("Bo");
});
afterAll(closeDatabase);

it("begins with nothing: a customer, its site, a machine, each by hand", async () => {
  expect(await nextTag()).toBe("M-1001");
  await expect(addMachine(ada, given(), NOW)).rejects.toMatchObject(refused("site", /No site begins like “Boatyard”/));
  const siteId = await addSite(lead, SITE, NOW);
  await expect(addSite(lead, { ...SITE, customer: "HARBOUR trust" }, NOW)).rejects.toMatchObject({ code: "name" });
  await addSite(ada, { ...SITE, name: "School" }, NOW);
  await addSite(lead, { ...SITE, customer: "School board", name: "School" }, NOW);
  expect(await getDb().models.Customer.count()).toBe(2);

  const id = await addMachine(
    ada,
    given({
      meters: [{ meter: "running-hours", value: 2927 }, { meter: "broom-hours" }],
      options: ["second-side-broom"],
    }),
    NOW,
  );
  expect(await machineOf(id)).toMatchObject({ siteId, toCheck: true, addedBy: ada.id, options: ["second-side-broom"] });
  expect(await getDb().models.MeterReading.findAll({ where: { machineId: id }, raw: true })).toMatchObject([
    { meter: "running-hours", value: 2927, readOn: TODAY, byPerson: ada.id },
  ]);
  expect((await changesOf("machine", [id])).map((one) => one.action)).toEqual(["added"]);
  // What goes by the meter starts from what it shows, not from a new machine's zero.
  const duties = await getDb().models.Duty.findAll({ where: { machineId: id }, raw: true });
  const hundred = must(duties.find((one) => one.procedureId === "ride-on-sweeper-100h"));
  expect(hundred.dueOn).not.toBe(TODAY);
  expect(await nextTag()).toBe("T-2");
});

it("says beside the field what cannot be taken", async () => {
  await expect(addMachine(ada, given({ tag: "t-1" }), NOW)).rejects.toMatchObject(
    refused("tag", /T-1 is on “Sweeper”/),
  );
  await expect(addMachine(ada, given({ tag: "T-9", site: "School" }), NOW)).rejects.toMatchObject(
    refused("site", /more than one site: “School, Harbour Trust”, “School, School board”/),
  );
  await expect(addMachine(ada, given({ tag: "T-9", family: "sweeper" }), NOW)).rejects.toMatchObject({
    code: "family",
  });
  const other = (otherFamily: string, familyIsNew = false) =>
    addMachine(ada, given({ tag: "T-9", family: OTHER_FAMILY, otherFamily, familyIsNew }), NOW);
  await expect(other("ride on sweper")).rejects.toMatchObject(refused("familyIsNew", /Did you mean “Ride-on sweeper”/));
  await expect(other("Coffee grinder")).rejects.toMatchObject(refused("familyIsNew", /No procedures are written/));
  for (const none of ["…", "Any"]) await expect(other(none, true)).rejects.toMatchObject({ code: "otherFamily" });
  expect(await getDb().models.Machine.count()).toBe(1);

  const id = await other("Coffee grinder", true);
  expect(await machineOf(id)).toMatchObject({ family: "coffee-grinder" });
  expect(await firstDutiesOf(id)).toEqual([]);
  expect((await addingNames()).families).toContain("coffee-grinder");
  // What people call a known one is that one.
  const oven = await addMachine(ada, given({ tag: "T-10", family: OTHER_FAMILY, otherFamily: "conveyor OVEN" }), NOW);
  expect(await machineOf(oven)).toMatchObject({ family: "conveyor-oven" });

  const plate = { serial: "S-1", maker: "Made-up", model: "M" };
  await addMachine(lead, given({ tag: "T-11", ...plate }), NOW);
  await expect(addMachine(lead, given({ tag: "T-12", ...plate }), NOW)).rejects.toMatchObject({ code: "serial" });
});

it("adds a plate that two people scan at once for one of them, and tells the other", async () => {
  const both = await Promise.allSettled([ada, bo].map((who) => addMachine(who, given({ tag: "T-20" }), NOW)));
  expect(both.map((one) => one.status).sort()).toEqual(["fulfilled", "rejected"]);
  expect(must(both.find((one) => one.status === "rejected"))).toMatchObject({ reason: { code: "tag" } });
  const machines = await getDb().models.Machine.findAll({ where: { tag: "T-20" }, raw: true });
  expect(machines).toHaveLength(1);
});

it("spreads first days, and takes them as they are changed; what is not owed is put out of force", async () => {
  const id = await addMachine(ada, given({ tag: "T-30", family: "wash-tunnel-conveyor" }), NOW);
  const proposed = await firstDutiesOf(id);
  const byCalendar = proposed.filter((one) => one.byCalendar);
  expect(byCalendar.length).toBeGreaterThan(2);
  expect(byCalendar.every((one) => must(one.dueOn) > TODAY)).toBe(true);
  const [first, second] = byCalendar;
  const rows = proposed.map((one) => ({ duty: one.id, take: one !== second, on: one.dueOn }));
  must(rows.find((one) => one.duty === must(first).id)).on = "2026-07-04";
  await expect(takeFirstDuties(bo, id, rows, NOW)).rejects.toMatchObject({ status: 403 });
  await expect(takeFirstDuties(ada, id, [{ duty: must(first).id, take: true, on: TODAY }], NOW)).rejects.toMatchObject({
    code: "duties[0].on",
  });
  await takeFirstDuties(ada, id, rows, NOW);
  const taken = await firstDutiesOf(id);
  expect(taken.map((one) => one.id)).not.toContain(must(second).id);
  expect(taken.find((one) => one.id === must(first).id)).toMatchObject({ dueOn: "2026-07-04" });
  expect(taken.filter((one) => one.id !== must(first).id).map((one) => one.dueOn)).toEqual(
    proposed.filter((one) => one !== first && one !== second).map((one) => one.dueOn),
  );
  const [change] = await changesOf("duty", [must(second).id]);
  expect(change).toMatchObject({ by: "Ada", details: { reason: "Not owed when the machine was added" } });

  // Once a lead has looked, it is the lead's.
  await expect(checkAdded(ada, { kind: "machine", id }, NOW)).rejects.toMatchObject({ status: 403 });
  expect((await addedToCheck()).machines.map((one) => one.tag)).toContain("T-30");
  await checkAdded(lead, { kind: "machine", id }, NOW);
  expect((await addedToCheck()).machines.map((one) => one.tag)).not.toContain("T-30");
  await expect(takeFirstDuties(ada, id, rows, NOW)).rejects.toMatchObject({ status: 403 });
});

it("copies a machine: what it owes by now, its rules and its meters, not its past", async () => {
  const like = must((await listMachines({ q: "T-30" })).rows[0]).id;
  const [odd] = await firstDutiesOf(like);
  const rules = { triggers: [{ kind: "calendar", every: 5, unit: "week", basis: "completion" }] } as const;
  await getDb().models.Duty.update(
    { title: "Own words", rules: { triggers: [...rules.triggers] } },
    { where: { id: must(odd).id } },
  );
  await getDb().models.MachineMeter.create({
    machineId: like,
    meter: "washes",
    name: "Washes",
    unit: "washes",
    basis: "",
    gatewayRef: "gate-7",
  });
  const id = await addMachine(lead, given({ tag: "T-31", family: "wash-tunnel-conveyor", like }), NOW);
  const [mine, theirs] = [await firstDutiesOf(id), await firstDutiesOf(like)];
  expect(mine.map((one) => one.title).sort()).toEqual(theirs.map((one) => one.title).sort());
  expect(must(mine.find((one) => one.title === "Own words")).dueOn).toBe("2026-07-15");
  expect(await getDb().models.MachineMeter.findAll({ where: { machineId: id }, raw: true })).toMatchObject([
    { meter: "washes", gatewayRef: null },
  ]);
  expect(await machineOf(id)).toMatchObject({ toCheck: false });

  // Of another family it is a machine like any other.
  const printer = await addMachine(lead, given({ tag: "T-32", family: "card-printer", like }), NOW);
  expect((await firstDutiesOf(printer)).map((one) => one.title)).toEqual(
    expect.arrayContaining(["Rear fan filter"]) as string[],
  );
  expect(await getDb().models.MachineMeter.count({ where: { machineId: printer } })).toBe(0);
});
