import { type BestRequests, type DayStop, dutyOfJob, must } from "@core";
import { type Contact, type CustomerRequestRow, type DayRow, getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { minuteOfDay } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { messagesAbout, type MessageView, queueMessage, sendAgain } from "~/kit/messages/messages.server";
import { Refusal } from "~/kit/refusal";
import { search } from "~/kit/server/aside.server";
import { audit } from "~/kit/server/audit.server";
import { linkToken } from "~/kit/server/links.server";
import { notBefore, planAndKeep } from "~/round/day/day.server";
import type { DayAsk, SiteAsks } from "~/round/day/day-asks";
import { buildDay, type BuiltDay } from "~/round/day/day-problem.server";
import { eventsOf, findDay } from "~/round/day/day-row.server";

import { type Announcement, askInWords, savedBy, subjectOf, textOf } from "./message-text";

/** Steps of the search for each length that is compared. */
const STEPS = 800;

export type AskView = Pick<DayAsk, "id" | "machineId" | "machineName" | "kind" | "ask"> & {
  words: string;
  byMinute: number;
  /** Minutes that it saves by itself. */
  alone: number;
  /** Among those that save most together. */
  best: boolean;
};

export type AskedView = Pick<
  CustomerRequestRow,
  "id" | "words" | "byMinute" | "saves" | "answer" | "answeredBy" | "answeredAt"
>;

export interface SiteBefore {
  id: string;
  name: string;
  contacts: Contact[];
  arrive: number;
  early: number;
  late: number;
  until: number;
  work: string[];
  asks: AskView[];
  /** Minutes that the best of them save together, and that the visit takes without. */
  saved: number;
  length: number;
  /** No other choice saves more. */
  proven: boolean;
  asked: AskedView[];
  messages: MessageView[];
}

export interface BeforeView {
  person: { id: string; name: string };
  on: string;
  /** The day lies behind, or has no plan: nothing is announced. */
  open: boolean;
  planned: boolean;
  sites: SiteBefore[];
}

interface Visit {
  built: BuiltDay;
  day: DayRow;
  asks: SiteAsks[];
  today: string;
  /** Minute before which nothing can be asked for any more; null on other days. */
  now: number | null;
}

/** What customers are told before a day, and what could be asked of them: by the plan of the day as it is kept. */
export async function beforeView(personId: string, on: string, now: Date): Promise<BeforeView> {
  const { models } = getDb();
  const person = await models.Person.findOne({
    attributes: ["id", "name"],
    where: { id: personId, active: true },
    raw: true,
  });
  if (!person) throw new Refusal(404, "no-such-person", "This person does not exist or is not active any more.");
  const visit = await visitsOf(personId, on, now);
  const plan = visit?.day.plan;
  const open = visit !== null && on >= visit.today && visit.day.status !== "ended";
  if (!visit || !plan || plan.stops.length === 0) return { person, on, open, planned: false, sites: [] };
  const ids = plan.stops.map((stop) => stop.site);
  const [best, contacts, asked, messages] = await Promise.all([
    open ? bestOf(visit) : new Map<string, BestRequests>(),
    models.Site.findAll({ attributes: ["id", "contacts"], where: { id: ids }, raw: true }),
    models.CustomerRequest.findAll({
      attributes: ["id", "siteId", "words", "byMinute", "saves", "answer", "answeredBy", "answeredAt"],
      where: { onDay: on, siteId: ids },
      order: [["byMinute", "ASC"]],
      raw: true,
    }),
    messagesAbout({ siteId: ids, onDay: on }),
  ]);
  const sites = plan.stops.map((stop) => {
    const site = visit.built.sites.find((one) => one.id === stop.site);
    const found = best.get(stop.site);
    return {
      id: stop.site,
      name: site?.name ?? "A site",
      contacts: contacts.find((one) => one.id === stop.site)?.contacts ?? [],
      ...bandOf(visit.day, stop),
      work: workAt(visit, stop),
      asks: found ? asksOf(visit, stop, found) : [],
      saved: found?.saved ?? 0,
      length: found?.length ?? stop.leave - stop.begin,
      proven: found?.proven ?? true,
      asked: asked.filter((one) => one.siteId === stop.site).map(({ siteId: _site, ...one }) => one),
      messages: messages.filter((one) => one.siteId === stop.site),
    };
  });
  return { person, on, open, planned: true, sites };
}

async function visitsOf(personId: string, on: string, now: Date): Promise<Visit | null> {
  const day = await findDay(personId, on);
  if (!day) return null;
  const clock = await firmDay(now);
  const live = day.status === "started" && clock.on === on;
  const built = await buildDay(notBefore(day, clock, now), await eventsOf(day.id), live ? now : null);
  const today = clock.on;
  return { built, day, asks: built.asks(), today, now: today === on ? minuteOfDay(now, clock.timeZone) : null };
}

/** When somebody comes to a site and is done there, with the earliest and the latest tenth of days. */
function bandOf({ risk }: DayRow, stop: DayStop): Pick<SiteBefore, "arrive" | "early" | "late" | "until"> {
  const band = risk?.begins.find((one) => one.site === stop.site);
  // The band is of when the work begins: one has come a little earlier.
  const inside = stop.begin - stop.arrive;
  return {
    arrive: stop.arrive,
    early: Math.min(stop.arrive, (band?.early ?? stop.begin) - inside),
    late: Math.max(stop.arrive, (band?.late ?? stop.begin) - inside),
    until: stop.leave,
  };
}

function workAt({ built }: Visit, stop: DayStop): string[] {
  const ids = new Set(stop.schedule.phases.map((phase) => dutyOfJob(phase.job)));
  return built.duties.filter((duty) => ids.has(duty.dutyId)).map((duty) => `${duty.machineName}: ${duty.title}`);
}

/** The best requests of each site where anything can be asked for in time. */
async function bestOf({ built, day, asks: all, now }: Visit): Promise<Map<string, BestRequests>> {
  const asked = all.flatMap(({ siteId, asks, variants }) => {
    const stop = day.plan?.stops.find((one) => one.site === siteId);
    const site = built.problem.sites.find((one) => one.id === siteId);
    if (!stop || !site) return [];
    const inTime = asks.filter((one) => byMinuteOf(day, stop, one) > (now ?? 0)).map((one) => one.id);
    if (inTime.length === 0) return [];
    const { technicians } = built.problem;
    const kept = variants.filter((one) => one.asked.every((id) => inTime.includes(id)));
    return [{ site, technicians, begin: stop.begin, requests: inTime, variants: kept }];
  });
  if (asked.length === 0) return new Map();
  const found = await search("bestRequests", asked, STEPS);
  return new Map(asked.map(({ site }, i) => [site.id, must(found[i])]));
}

/** Minute by which it has to be done: before the earliest that the work begins. */
const byMinuteOf = (day: DayRow, stop: DayStop, { lead }: DayAsk): number =>
  bandOf(day, stop).early + (stop.begin - stop.arrive) - lead;

function asksOf({ day, asks }: Visit, stop: DayStop, found: BestRequests): AskView[] {
  const all = asks.find((one) => one.siteId === stop.site)?.asks ?? [];
  const view = (id: string, alone: number, best: boolean): AskView => {
    const one = must(all.find((known) => known.id === id));
    const byMinute = byMinuteOf(day, stop, one);
    const { machineId, machineName, kind, ask } = one;
    return { id, machineId, machineName, kind, ask, words: askInWords(one, byMinute), byMinute, alone, best };
  };
  return [
    ...found.asked.map((one) => view(one.id, one.alone, true)),
    ...found.others.filter((one) => one.alone > 0).map((one) => view(one.id, one.alone, false)),
  ];
}

export interface Announced {
  site: string;
  to: string;
  name: string;
  asks: string[];
  note: string;
  /** Where the app is, for the link in the message. */
  origin: string;
}

/**
 * Tells a customer when somebody comes, and asks for what was chosen. Message, requests and the link that answers them are kept
 * together, or none of them.
 *
 * @returns who it goes to
 */
export async function announce(
  actor: Actor,
  personId: string,
  on: string,
  said: Announced,
  now: Date,
): Promise<string> {
  const view = await beforeView(personId, on, now);
  const site = view.sites.find((one) => one.id === said.site);
  if (!site || !view.open)
    throw new Refusal(409, "not-planned", "The day has no such visit any more. Load the page again.");
  const chosen = said.asks.map((id) => {
    const ask = site.asks.find((one) => one.id === id);
    if (!ask)
      throw new Refusal(409, "ask", "What is asked for has changed with the plan. Load the page again and look at it.");
    return ask;
  });
  const db = getDb();
  const { token, link } = linkToken(actor, "answer", now);
  const message: Announcement = {
    toName: said.name,
    person: view.person.name,
    on,
    site: site.name,
    arrive: site.arrive,
    early: site.early,
    late: site.late,
    until: site.until,
    work: site.work,
    asks: chosen.map((one) => one.words),
    saves: savedBy(site, chosen),
    link: chosen.length > 0 ? `${said.origin}/answer/${token}` : null,
    note: said.note,
  };
  await db.transact(async (tx) => {
    const messageId = must(
      await queueMessage(
        {
          kind: "before",
          to: { name: said.name, address: said.to },
          subject: subjectOf(message).slice(0, 200),
          body: textOf(message),
          siteId: site.id,
          onDay: on,
          by: actor.id,
        },
        now,
        tx,
      ),
    );
    if (chosen.length > 0) await db.models.Link.create({ ...link, subjectId: messageId }, { transaction: tx });
    for (const ask of chosen) {
      const where = { machineId: ask.machineId, onDay: on, ask: ask.ask };
      const known = await db.models.CustomerRequest.findOne({
        where,
        raw: true,
        lock: tx.LOCK.UPDATE,
        transaction: tx,
      });
      const row = {
        messageId,
        personId,
        siteId: site.id,
        words: ask.words.slice(0, 300),
        byMinute: ask.byMinute,
        saves: ask.alone,
      };
      if (known) await db.models.CustomerRequest.update(row, { where: { id: known.id }, transaction: tx });
      else await db.models.CustomerRequest.create({ id: uuidv7(), ...where, ...row }, { transaction: tx });
    }
    await audit(
      {
        by: actor,
        subject: "site",
        subjectId: site.id,
        action: "announced",
        details: { on, to: said.to, asks: chosen.map((one) => one.words) },
        now,
      },
      tx,
    );
  });
  return said.name === "" ? said.to : said.name;
}

/** Notes what a customer said to a request for a person's day; the day is planned anew with it. */
export async function noteAnswer(
  actor: Actor,
  said: { personId: string; on: string; request: string; answer: "yes" | "no" },
  now: Date,
): Promise<void> {
  const { personId, on: onDay, request: id, answer } = said;
  await answered([{ id, said: answer }], { by: actor.name, actor: actor.id }, { personId, onDay }, now);
}

/**
 * Writes down answers, with what was said before kept in the trail, and plans the days again that they change.
 *
 * @param of what they may be to: what a message asked, or what was asked for a person's day
 */
export async function answered(
  answers: readonly { id: string; said: "yes" | "no" }[],
  { by, actor }: { by: string; actor: string | null },
  of: { messageId: string } | { personId: string; onDay: string },
  now: Date,
): Promise<void> {
  const db = getDb();
  const days = await db.transact(async (tx) => {
    const rows = await db.models.CustomerRequest.findAll({
      where: { id: answers.map((one) => one.id), ...of },
      order: ["id"],
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    if (rows.length < answers.length)
      throw new Refusal(409, "request", "This was asked anew, or is gone. Load the page again.");
    const changed = rows.filter((row) => row.answer !== answers.find((one) => one.id === row.id)?.said);
    for (const row of changed) {
      const answer = must(answers.find((one) => one.id === row.id)).said;
      await db.models.CustomerRequest.update(
        { answer, answeredAt: now, answeredBy: by },
        { where: { id: row.id }, transaction: tx },
      );
      await audit(
        {
          by: actor === null ? null : { id: actor },
          subject: "site",
          subjectId: row.siteId,
          action: "answered",
          details: {
            old: { answer: row.answer, by: row.answeredBy },
            new: { answer, by },
            words: row.words,
            on: row.onDay,
          },
          now,
        },
        tx,
      );
    }
    return [...new Map(changed.map((row) => [`${row.personId} ${row.onDay}`, row])).values()];
  });
  const { on: today } = await firmDay(now);
  for (const { personId, onDay } of days) {
    const day = await findDay(personId, onDay);
    if (!day?.plan || day.status === "ended" || onDay < today) continue;
    await planAndKeep({ id: personId }, personId, onDay, null, now);
  }
}

/** Lets a message to a site of a person's day that was not sent be tried again. */
export async function tryAgain(personId: string, onDay: string, message: string, now: Date): Promise<void> {
  const day = await findDay(personId, onDay);
  const siteId = day?.plan?.stops.map((stop) => stop.site) ?? [];
  await sendAgain(message, { kind: "before", onDay, siteId }, now);
}
