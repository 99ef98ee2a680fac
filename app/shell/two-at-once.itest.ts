import { must } from "@core";
import { getDb } from "@db";

import { changeDuty, DUTY_WORDS, dutyForEdit } from "~/duties/duties.server";
import type { Actor } from "~/kit/actor";
import { type ChangedMeanwhile, seenOf } from "~/kit/server/meanwhile.server";
import { changeMachine, getMachine, MACHINE_WORDS } from "~/machines/machines.server";
import { changeSite, getSite, SITE_WORDS } from "~/machines/sites/sites.server";
import { getDraft, newestVersionOf, publishDraft, saveDraft, startDraft, versionsOf } from "~/procedures/drafts.server";
import { handOver } from "~/round/day/day-log.server";
import { moveBack, putOnDay } from "~/round/day/put-on-day.server";
import { changeWorker, weekView } from "~/round/week/week.server";
import { getItem, ITEM_WORDS, saveItem } from "~/stores/items/catalogue.server";
import { KIT_WORDS, kitSettings, listKits, saveKit } from "~/stores/load/kits.server";
import { addActor, closeDatabase, dutyOf } from "~/testing/database";
import { beginStores, kim, lead, mo, NOW } from "~/testing/stores";

const ROUNDS = 20;
const ON = "2026-06-15";
let other: Actor;
let kitId: string;
let dutyId: string;
let machineId: string;
let siteId: string;

beforeAll(async () => {
  await beginStores();
  other = await addActor("Olga", "lead");
  dutyId = await dutyOf("S-1", "flake-ice-maker-monthly");
  ({ machineId } = must(await getDb().models.Duty.findByPk(dutyId, { raw: true })));
  ({ siteId } = must(await getDb().models.Machine.findByPk(machineId, { raw: true })));
  const items = [{ itemId: "roller-sleeve", qty: 5 }];
  kitId = await saveKit(lead, null, { name: "Kit", procedureId: "card-printer-ribbon", items }, NOW);
});
afterAll(closeDatabase);

/** Something that two leads may have open at once: what its form is filled from, and a change of one of its texts. */
interface Edited {
  what: string;
  field: string;
  read: () => Promise<{ seen: string; text: string }>;
  write: (who: Actor, text: string, seen: string) => Promise<unknown>;
}

const kitNow = async () => {
  const kit = must((await listKits()).find((one) => one.id === kitId));
  return kitSettings({ ...kit, items: kit.items.map(({ itemId, full }) => ({ itemId, qty: full })) });
};
const workerNow = async () => must((await weekView(null, NOW)).people.find((one) => one.id === mo.id));

const EDITED: Edited[] = [
  {
    what: "site",
    field: "Notes",
    read: async () => {
      const { site } = await getSite(siteId, NOW);
      return { seen: seenOf(site, SITE_WORDS), text: site.notes };
    },
    write: async (who, notes, seen) => {
      const { id: _, customerId: __, customerName: ___, ...settings } = (await getSite(siteId, NOW)).site;
      await changeSite(who, siteId, { ...settings, notes }, NOW, seen);
    },
  },
  {
    what: "machine",
    field: "Notes",
    read: async () => {
      const { machine } = await getMachine(machineId);
      return { seen: seenOf(machine, MACHINE_WORDS), text: machine.notes };
    },
    write: async (who, notes, seen) => {
      const { machine } = await getMachine(machineId);
      const { name, area, position, maker, model, serial, options, documents, freeHours, readyBy } = machine;
      const settings = { name, area, position, maker, model, serial, options, documents, freeHours, readyBy, notes };
      await changeMachine(who, machineId, { settings, seen }, NOW);
    },
  },
  {
    what: "duty",
    field: "Title",
    read: async () => {
      const { settings } = await dutyForEdit(dutyId, NOW);
      return { seen: seenOf(settings, DUTY_WORDS), text: settings.title };
    },
    write: async (who, title, seen) => {
      const { settings } = await dutyForEdit(dutyId, NOW);
      await changeDuty(who, dutyId, { settings: { ...settings, title }, reason: "why", seen }, NOW);
    },
  },
  {
    what: "item",
    field: "How it is kept",
    read: async () => {
      const item = await getItem("mild-soap");
      return { seen: seenOf(item, ITEM_WORDS), text: item.storage };
    },
    write: async (who, storage, seen) =>
      saveItem(who, "mild-soap", { ...(await getItem("mild-soap")), storage }, NOW, seen),
  },
  {
    what: "kit",
    field: "Name",
    read: async () => {
      const kit = await kitNow();
      return { seen: seenOf(kit, KIT_WORDS), text: kit.name };
    },
    write: async (who, name, seen) => saveKit(who, kitId, { ...(await kitNow()), name }, NOW, seen),
  },
  {
    what: "person's work",
    field: "From",
    read: async () => {
      const person = await workerNow();
      return { seen: person.seen, text: person.dayFrom };
    },
    write: async (who, dayFrom, seen) => {
      const { dayTo, breaks, families, territory } = await workerNow();
      await changeWorker(who, mo.id, { dayFrom, dayTo, breaks, families, territory }, NOW, seen);
    },
  },
];

describe.each(EDITED)("a $what that two leads change at once", ({ what, field, read, write }) => {
  const texts = (round: number): [string, string] =>
    what === "person's work"
      ? [`05:${String(10 + round)}`, `06:${String(10 + round)}`]
      : [`${what} by Lea ${round}`, `${what} by Olga ${round}`];

  it(`takes the first one's and tells the second, ${ROUNDS} of ${ROUNDS} times`, async () => {
    for (let round = 0; round < ROUNDS; round++) {
      const { seen } = await read();
      const [hers, olgas] = texts(round);
      const ends = await Promise.allSettled([write(lead, hers, seen), write(other, olgas, seen)]);
      const [won, lost] = ends[0].status === "fulfilled" ? [hers, olgas] : [olgas, hers];
      const refused = ends.filter((end) => end.status === "rejected").map((end) => end.reason as ChangedMeanwhile);
      expect(refused.map((one) => one.code)).toEqual(["changed-meanwhile"]);
      const now = await read();
      expect(now.text).toBe(won);
      expect(must(refused[0]).meanwhile).toEqual({
        by: won === hers ? "Lea" : "Olga",
        at: expect.any(Date) as Date,
        seen: now.seen,
        differ: [{ what: field, theirs: won, yours: lost }],
      });
    }
    // Who has read theirs may put the own in its place.
    const [mine] = texts(ROUNDS);
    await write(lead, mine, (await read()).seen);
    expect((await read()).text).toBe(mine);
  });
});

it("two territories of as many sites are two, and are told by their names", async () => {
  const { seen, dayFrom, dayTo, breaks, families } = await workerNow();
  const sites = await getDb().select<{ id: string; name: string }>("SELECT id, name FROM sites ORDER BY name LIMIT 2");
  const [lab, works] = [must(sites[0]), must(sites[1])];
  await changeWorker(lead, mo.id, { dayFrom, dayTo, breaks, families, territory: [lab.id] }, NOW, seen);
  await expect(
    changeWorker(other, mo.id, { dayFrom, dayTo, breaks, families, territory: [works.id] }, NOW, seen),
  ).rejects.toMatchObject({
    meanwhile: { differ: [{ what: "Territory", theirs: lab.name, yours: works.name }] },
  });
});

describe("a duty on somebody's day", () => {
  const placed = async () => {
    const { plannedOn, plannedFor } = must(await getDb().models.Duty.findByPk(dutyId, { raw: true }));
    return [plannedOn, plannedFor];
  };

  it(`is not taken by who chose it at the same time, ${ROUNDS} of ${ROUNDS} times`, async () => {
    for (let round = 0; round < ROUNDS; round++) {
      const ends = await Promise.allSettled(
        [mo, kim].map((who) => putOnDay(who, [dutyId], { on: ON, personId: who.id, from: "nobody" }, NOW)),
      );
      const winner = ends[0]?.status === "fulfilled" ? mo : kim;
      expect(ends.map((end) => end.status).sort()).toEqual(["fulfilled", "rejected"]);
      expect(must(ends.find((end) => end.status === "rejected"))).toMatchObject({
        reason: { code: "moved", message: expect.stringContaining(`${winner.name}'s day, ${ON}`) },
      });
      expect(await placed()).toEqual([ON, winner.id]);
      await putOnDay(winner, [dutyId], { on: null, personId: null, from: { on: ON, personId: winner.id } }, NOW);
    }
  });

  it("is moved from where it was seen, or not at all; so is taking it back", async () => {
    const seen = new Map([[dutyId, { on: null, personId: null }]]);
    await putOnDay(lead, [dutyId], { on: ON, personId: mo.id, from: seen }, NOW);
    await expect(
      putOnDay(other, [dutyId], { on: "2026-06-16", personId: kim.id, from: seen }, NOW),
    ).rejects.toMatchObject({ code: "moved" });
    await putOnDay(other, [dutyId], { on: "2026-06-17", personId: kim.id }, NOW);
    const undo = (who: Actor) =>
      moveBack(who, [{ dutyId, on: ON, personId: mo.id }], [{ dutyId, on: null, personId: null }], NOW);
    await expect(undo(lead)).rejects.toMatchObject({ code: "moved" });
    expect(await placed()).toEqual(["2026-06-17", kim.id]);
    // On a day that has passed it is on nobody's.
    await putOnDay(mo, [dutyId], { on: ON, personId: mo.id, from: "nobody" }, new Date("2026-06-18T08:00:00Z"));
    expect(await placed()).toEqual([ON, mo.id]);
  });

  it("stays with the others when the day is handed over while it is taken off", async () => {
    for (let round = 0; round < ROUNDS; round++) {
      await putOnDay(lead, [dutyId], { on: ON, personId: mo.id }, NOW);
      const off = { on: null, personId: null, from: { on: ON, personId: mo.id } };
      const [handed, taken] = await Promise.allSettled([
        handOver(mo, mo.id, ON, kim.id, NOW),
        putOnDay(mo, [dutyId], off, NOW),
      ]);
      expect(handed.status).toBe("fulfilled");
      expect(await placed()).toEqual(taken.status === "fulfilled" ? [null, null] : [ON, kim.id]);
    }
  });
});

describe("a draft", () => {
  const draftOf = async (title: string) => {
    const id = await startDraft(lead, "flake-ice-maker-monthly", null, NOW);
    const { body } = await getDraft(id);
    await saveDraft(lead, id, JSON.stringify({ ...body, title }), 1, NOW);
    return id;
  };
  const statuses = (ends: PromiseSettledResult<unknown>[]) => ends.map((end) => end.status).sort();

  it(`is published once by two leads, ${ROUNDS} of ${ROUNDS} times`, async () => {
    for (let round = 0; round < ROUNDS; round++) {
      const newest = await newestVersionOf("flake-ice-maker-monthly");
      const id = await draftOf(`One draft ${round}`);
      const ends = await Promise.allSettled(
        [lead, other].map((who) => publishDraft(who, id, { why: "why", revision: 2, newest }, NOW)),
      );
      expect(statuses(ends)).toEqual(["fulfilled", "rejected"]);
      expect(await newestVersionOf("flake-ice-maker-monthly")).toBe(newest + 1);
    }
  });

  it(`is not published over another of the same procedure, ${ROUNDS} of ${ROUNDS} times`, async () => {
    for (let round = 0; round < ROUNDS; round++) {
      const newest = await newestVersionOf("flake-ice-maker-monthly");
      const drafts = [await draftOf(`First ${round}`), await draftOf(`Second ${round}`)];
      const ends = await Promise.allSettled(
        drafts.map((id) => publishDraft(lead, id, { why: "why", revision: 2, newest }, NOW)),
      );
      expect(statuses(ends)).toEqual(["fulfilled", "rejected"]);
      const lost = must(drafts[ends.findIndex((end) => end.status === "rejected")]);
      // Nothing of it is gone: it is published after the other was read.
      await publishDraft(lead, lost, { why: "after all", revision: 2, newest: newest + 1 }, NOW);
      expect((await versionsOf("flake-ice-maker-monthly")).slice(0, 2).map((one) => one.version)).toEqual([
        newest + 2,
        newest + 1,
      ]);
    }
  });
});
