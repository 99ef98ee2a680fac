import { must } from "@core";
import { getDb } from "@db";

import { findLink } from "~/kit/server/links.server";
import { getDayView, planAndKeep } from "~/round/day/day.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { beginRound, kim, later, mo, NOW, site } from "~/testing/round";

import { customerAnswers, takeAnswers } from "./answer.server";
import { announce, beforeView, noteAnswer } from "./before.server";

const TOMORROW = "2026-06-11";
const ORIGIN = "https://hound.example";
let works: string;

beforeAll(async () => {
  await beginRound();
  works = must(site.get("Works"));
  for (const [tag, procedure] of [
    ["D-1", "conveyor-oven-weekly"],
    ["D-3", "flake-ice-maker-clean-sanitise"],
  ] as const)
    await putOnDay(mo, [await dutyOf(tag, procedure)], { on: TOMORROW, personId: mo.id }, NOW);
  await planAndKeep(mo, mo.id, TOMORROW, null, NOW);
});
afterAll(closeDatabase);

let DAY: { personId: string; on: string };
beforeAll(() => (DAY = { personId: mo.id, on: TOMORROW }));
const atWorks = async (now = NOW) =>
  must((await beforeView(mo.id, TOMORROW, now)).sites.find((one) => one.id === works));
const told = (asks: string[], more: object = {}) => ({
  site: works,
  to: "ana@works.example",
  name: "Ana",
  asks,
  note: "",
  origin: ORIGIN,
  ...more,
});
/** The token in the newest message. */
const tokenOf = async (): Promise<string> => {
  const [message] = (await atWorks()).messages;
  return must(/answer\/([\w-]+)/.exec(must(message).body))[1] ?? "";
};

describe("before a day", () => {
  it("is asked for what shortens the visit: the oven off in time for its cool-down", async () => {
    const view = await atWorks();
    const [cool, ...rest] = view.asks;
    expect(cool).toMatchObject({ kind: "cool", machineName: "Oven", best: true });
    // Packing fills a part of the hour with the other machine's work.
    expect(must(cool).alone).toBeGreaterThanOrEqual(20);
    expect(must(cool).alone).toBeLessThanOrEqual(60);
    expect(view.saved).toBeGreaterThanOrEqual(must(cool).alone);
    expect(must(cool).byMinute).toBeLessThanOrEqual(view.early + 5 - 60);
    expect(rest.map((one) => one.kind)).toEqual(rest.map(() => "do"));
    expect(view.early).toBeLessThanOrEqual(view.arrive);
    expect(view.late).toBeGreaterThanOrEqual(view.arrive);
  });

  it("counts on nothing that was asked until somebody says yes, and is planned with it then", async () => {
    const before = await getDayView(mo.id, TOMORROW, NOW);
    const { asks, saved } = await atWorks();
    await announce(mo, mo.id, TOMORROW, told(asks.filter((one) => one.best).map((one) => one.id)), NOW);
    await planAndKeep(mo, mo.id, TOMORROW, null, NOW);
    expect((await getDayView(mo.id, TOMORROW, NOW)).day.plan?.endAt).toBe(before.day.plan?.endAt);
    const { asked } = await atWorks();
    for (const one of asked) await noteAnswer(mo, { ...DAY, request: one.id, answer: "yes" }, NOW);
    const after = await getDayView(mo.id, TOMORROW, NOW);
    expect(must(before.day.plan).endAt - must(after.day.plan).endAt).toBe(saved);
    expect(after.stale).toBe(false);
    // What was said yes to is not asked again.
    const left = (await atWorks()).asks.map((one) => one.words);
    expect(asked.filter((one) => left.includes(one.words))).toEqual([]);
    for (const one of asked) await noteAnswer(mo, { ...DAY, request: one.id, answer: "no" }, NOW);
    expect((await getDayView(mo.id, TOMORROW, NOW)).day.plan?.endAt).toBe(before.day.plan?.endAt);
    const trail = await getDb().models.Audit.findAll({ where: { subjectId: works, action: "answered" }, raw: true });
    expect(trail.map((one) => (one.details as { old: unknown; new: unknown }).old)).toContainEqual({
      answer: "yes",
      by: "Mo",
    });
  });

  it("notes answers to what was asked for the day, not for somebody else's", async () => {
    const [one] = (await atWorks()).asked;
    const theirs = { personId: kim.id, on: TOMORROW, request: must(one).id, answer: "yes" as const };
    await expect(noteAnswer(kim, theirs, NOW)).rejects.toThrow(/asked anew/);
    await expect(noteAnswer(mo, { ...theirs, personId: mo.id, on: "2026-06-12" }, NOW)).rejects.toThrow(/asked anew/);
  });

  it("says so in a message with a link that answers it, and nothing else by that link", async () => {
    const view = await atWorks();
    const cool = must(view.asks.find((one) => one.kind === "cool"));
    const ice = must(view.asks.find((one) => one.kind === "do"));
    await announce(mo, mo.id, TOMORROW, told([ice.id]), NOW);
    await announce(mo, mo.id, TOMORROW, told([cool.id], { note: "Side door" }), later(1));
    const link = must(await findLink(["answer"], await tokenOf()));
    expect(await findLink(["operator"], await tokenOf())).toBeNull();
    const shown = await customerAnswers(link, NOW);
    expect(shown).toMatchObject({ site: "Works", on: TOMORROW, person: "Mo", over: false });
    expect(shown.asked.map((one) => one.words)).toEqual([cool.words]);
    const id = must(shown.asked[0]).id;
    await takeAnswers(link, { name: "Ana", answers: [{ id, said: "yes" }] }, NOW);
    expect((await atWorks()).asked.find((one) => one.id === id)).toMatchObject({ answer: "yes", answeredBy: "Ana" });
    // Another message's requests, or those of an earlier one, are not this link's to answer.
    const other = must((await atWorks()).asked.find((one) => one.id !== id));
    await expect(takeAnswers(link, { name: "Ana", answers: [{ id: other.id, said: "yes" }] }, NOW)).rejects.toThrow(
      /asked anew/,
    );
    await expect(takeAnswers(link, { name: "Ana", answers: [{ id }] }, NOW)).rejects.toThrow(/at least one/);
    await expect(takeAnswers(link, { name: "Ana", answers: [{ id, said: "no" }] }, later(2 * 1440))).rejects.toThrow(
      /over/,
    );
  });

  it("asks for nothing that the plan does not have any more, nor for days that are over", async () => {
    await expect(announce(mo, mo.id, TOMORROW, told(["nothing"]), NOW)).rejects.toThrow(/changed with the plan/);
    await expect(announce(mo, mo.id, TOMORROW, told([], { site: must(site.get("School")) }), NOW)).rejects.toThrow(
      /no such visit/,
    );
    expect(await beforeView(mo.id, TOMORROW, later(2 * 1440))).toMatchObject({ open: false });
    expect(await beforeView(kim.id, TOMORROW, NOW)).toMatchObject({ planned: false, sites: [] });
  });

  it("asks for nothing that is too late to be done", async () => {
    // On the day, half an hour before it begins: an hour's cooling is past asking for.
    const view = await atWorks(new Date("2026-06-11T05:30:00Z"));
    expect(view.asks.filter((one) => one.kind === "cool")).toEqual([]);
  });

  it("asks for nothing on a sheet that is open", async () => {
    const duty = await dutyOf("D-3", "flake-ice-maker-clean-sanitise");
    await openSheet(mo, duty, "phone", NOW);
    expect((await atWorks()).asks.filter((one) => one.machineName === "Ice")).toEqual([]);
  });
});
