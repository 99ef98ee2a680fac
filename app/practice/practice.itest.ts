import { byTheGuide, drawFault, must, type PracticeAct, type RunEvent, shownAt } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { grantAuthorisation } from "~/people/people.server";
import { requiredPractices, requireNoPractice, requirePractice } from "~/people/required-practice.server";
import { guideOf } from "~/procedures/guides/guides.server";
import { getProcedure } from "~/procedures/procedures.server";
import { addActor, closeDatabase, freshDatabase, publishShipped } from "~/testing/database";

import { simulateSheet } from "../../db/demo/simulate-sheet";
import { beginFault, beginSheet, doAct, handIn, practiceList, runView } from "./practice.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (days: number): Date => new Date(NOW.getTime() + days * 86_400_000);
let ada: Actor;
let bo: Actor;
let lea: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("few");
  [ada, bo, lea] = [await addActor("Ada"), await addActor("Bo"), await addActor("Lea", "lead")];
});
afterAll(closeDatabase);

const rowOf = async (id: string) => must(await getDb().models.PracticeRun.findByPk(id, { raw: true }));

/** What the guide alone does on the machine of a run. */
async function guideActs(id: string): Promise<PracticeAct[]> {
  const { family, seed } = await rowOf(id);
  const guide = must(await guideOf(family));
  return byTheGuide(guide, drawFault(guide, seed)).acts;
}

async function play(actor: Actor, id: string, acts: readonly PracticeAct[], at: Date): Promise<void> {
  for (const [seen, act] of acts.entries()) await doAct(actor, id, act, seen, at);
}

it("a fault is found by what the machine shows, judged at the end, and told to nobody before", async () => {
  const id = await beginFault(ada, { family: "prep-cabinet", again: null }, NOW);
  const before = await runView(ada, id);
  expect(before.end).toBeNull();
  const { seed } = await rowOf(id);
  const guide = must(await guideOf("prep-cabinet"));
  const fault = drawFault(guide, seed);
  // Every cause of the guide is offered; none is told apart from the others.
  expect(must(before.fault).causes.length).toBeGreaterThan(20);
  expect(JSON.stringify(before)).not.toContain(`"shownBy"`);
  await play(ada, id, await guideActs(id), NOW);
  const { end, fault: view } = await runView(ada, id);
  expect(must(end).result).toMatchObject({ isPassed: true, isSolved: true, unsafe: [], forgotten: [] });
  expect(must(must(end).truth).cause).toBe(must(guide.causes.find((one) => one.id === fault.cause)).name);
  expect(must(view).lines.at(-1)?.text).toBe("Left the machine");
  expect(await rowOf(id)).toMatchObject({ passed: true, finishedAt: NOW });
  await expect(doAct(ada, id, { act: "prove" }, 99, NOW)).rejects.toThrow("This practice is over.");
});

it("a second tap, and one from an older page, is none; two at once are one", async () => {
  const id = await beginFault(ada, { family: "prep-cabinet", again: null }, NOW);
  await Promise.all([0, 0, 0].map((seen) => doAct(ada, id, { act: "wait", minutes: 5 }, seen, NOW)));
  expect(await rowOf(id)).toMatchObject({ actsCount: 1, acts: [{ act: "wait", minutes: 5 }] });
  await doAct(ada, id, { act: "wait", minutes: 5 }, 0, NOW);
  expect((await rowOf(id)).actsCount).toBe(1);
});

it("what the guide does not have is refused, and nothing of it kept", async () => {
  const id = await beginFault(ada, { family: "prep-cabinet", again: null }, NOW);
  await expect(doAct(ada, id, { act: "check", check: "sniff" }, 0, NOW)).rejects.toMatchObject({ status: 422 });
  await expect(doAct(ada, id, { act: "enter", state: "asleep" }, 0, NOW)).rejects.toMatchObject({ status: 422 });
  expect((await rowOf(id)).actsCount).toBe(0);
  await expect(beginFault(ada, { family: "no-such", again: null }, NOW)).rejects.toMatchObject({ status: 404 });
});

it("is one's own; a lead sees everybody's", async () => {
  const id = await beginFault(ada, { family: "prep-cabinet", again: null }, NOW);
  await expect(runView(bo, id)).rejects.toMatchObject({ status: 404 });
  await expect(doAct(bo, id, { act: "prove" }, 0, NOW)).rejects.toMatchObject({ status: 404 });
  await expect(doAct(lea, id, { act: "prove" }, 0, NOW)).rejects.toMatchObject({ status: 404 });
  expect((await runView(lea, id)).isOwn).toBe(false);
  const mine = await practiceList(ada);
  expect(mine).toMatchObject({ people: [], others: [] });
  expect(mine.own.every((one) => one.personId === ada.id)).toBe(true);
  const all = await practiceList(lea);
  expect(all.people).toMatchObject([{ byName: "Ada", family: "prep-cabinet", runs: 1, passed: 1 }]);
  expect(all.others.length).toBe(mine.own.length);
});

it("the same machine again has the same fault, and counts for no authorisation", async () => {
  const first = await beginFault(bo, { family: "prep-cabinet", again: null }, NOW);
  const again = await beginFault(bo, { family: "prep-cabinet", again: first }, NOW);
  expect(await rowOf(again)).toMatchObject({ seed: (await rowOf(first)).seed, isNew: false });
  await requirePractice(lea, { authorisation: "cabinet-work", family: "prep-cabinet", days: 30 }, NOW);
  const grant = (at: Date) => grantAuthorisation(lea, bo.id, { kind: "cabinet-work", expiresOn: null }, at);
  await expect(grant(NOW)).rejects.toThrow("Refrigerated prep cabinet, within 30 days");
  await play(bo, again, await guideActs(again), NOW);
  expect((await rowOf(again)).passed).toBe(true);
  await expect(grant(NOW)).rejects.toMatchObject({ code: "kind" });

  await play(bo, first, await guideActs(first), NOW);
  await expect(grant(later(31))).rejects.toMatchObject({ code: "kind" });
  await grant(later(29));
  // Another's practice is not one's own; what asks for none is granted.
  await expect(grantAuthorisation(lea, lea.id, { kind: "cabinet-work", expiresOn: null }, NOW)).rejects.toMatchObject({
    code: "kind",
  });
  await grantAuthorisation(lea, lea.id, { kind: "licensed-gas", expiresOn: null }, NOW);
  await requireNoPractice(lea, { authorisation: "cabinet-work", family: "prep-cabinet" }, NOW);
  expect(await requiredPractices()).toEqual([]);
  await grantAuthorisation(lea, lea.id, { kind: "cabinet-work", expiresOn: null }, NOW);
});

describe("a whole sheet", () => {
  const PROCEDURE = "slide-stainer-chambers";

  async function worked(id: string, how: "read" | "guessed"): Promise<RunEvent[]> {
    const { seed, family } = await rowOf(id);
    const procedure = await getProcedure(PROCEDURE);
    return simulateSheet({
      procedure,
      machine: { options: [], slots: {} },
      sheetId: id,
      by: ada.id,
      startMs: NOW.getTime(),
      newId: () => uuidv7(),
      started: { type: "started", planId: id, procedureId: procedure.id, procedureVersion: procedure.version },
      script: how === "read" ? { shows: (step, at) => shownAt({ family, seed }, step, at) } : {},
    });
  }

  it("is handed in once, and judged by what its machine showed", async () => {
    const id = await beginSheet(ada, PROCEDURE, NOW);
    const entries = JSON.stringify(await worked(id, "read"));
    await handIn(ada, id, { entries, options: [] }, NOW);
    const { end } = await runView(ada, id);
    expect(must(end).result).toMatchObject({ isSolved: true, unsafe: [], forgotten: [] });
    await expect(handIn(ada, id, { entries, options: [] }, NOW)).rejects.toMatchObject({ status: 409 });
    await expect(handIn(bo, id, { entries, options: [] }, NOW)).rejects.toMatchObject({ status: 404 });
  });

  it("what cannot be read is refused, and nothing kept", async () => {
    const id = await beginSheet(ada, PROCEDURE, NOW);
    const hand = (entries: string) => handIn(ada, id, { entries, options: [] }, NOW);
    await expect(hand("{")).rejects.toMatchObject({ status: 422 });
    await expect(hand("[]")).rejects.toMatchObject({ status: 422 });
    await expect(hand('[{"type":"step-done"}]')).rejects.toMatchObject({ status: 422 });
    await expect(hand("[null]")).rejects.toMatchObject({ status: 422 });
    await expect(hand('{"length":1}')).rejects.toMatchObject({ status: 422 });
    expect(await rowOf(id)).toMatchObject({ finishedAt: null, actsCount: 0 });
  });
});
