import { allRounds, foldRun, orderEvents, type RunEvent, type RunState, type SheetStep, unsafeWork } from "@core";
import { getDb } from "@db";

import { type DueRow, getDuty } from "~/duties/due.server";
import { dayInZone } from "~/kit/days/site-day";
import { arrivedPhotos } from "~/kit/server/photos.server";
import { type Letterhead, letterheadOfFirm } from "~/people/letterhead.server";
import { instrumentNames } from "~/sheet/instruments.server";
import type { ItemNames } from "~/sheet/item-names";
import { loadSheet, type SheetView } from "~/sheet/log/sheets.server";
import { signedTogether } from "~/sheet/signing/next-after.server";
import { namesOfItems } from "~/stores/items/names-of-items.server";

import { entryWords } from "./entry-words";
import * as sql from "./records.sql";

interface NamedEntry {
  id: string;
  at: string;
  by: string;
  words: string;
}

export interface RecordView extends SheetView {
  state: RunState;
  /** Every round of a repeat block, in order. */
  steps: SheetStep[];
  /** The same duty as it stands now: its next day and why. */
  next: { row: DueRow; because: string[] } | null;
  /** What came when it was closed: kept beside it, changing nothing in it. */
  cameLate: (NamedEntry & { cameAt: Date | null })[];
  /** Logged while the device's clock was set or wrong: their times are the best that is known. */
  uncertain: (NamedEntry & { deviceAt: string | null })[];
  /** Instruments used, by id. */
  instruments: Record<string, string>;
  /** The record's entries in the chain: its own, then those of what was added later. */
  chain: { seq: number; kind: string; hash: string }[];
  /** What was worked as it must not be, in sentences. */
  unsafe: string[];
  /** Pictures that have arrived. */
  photos: string[];
  itemNames: ItemNames;
  letterhead: Letterhead | null;
  /** By the day's log when there is one: when who closed it came and left, and what they had their hands on. */
  onSite: { arrivedAt: Date | null; leftAt: Date | null; handsOn: number | null };
  /** What else the customer's one signature was given for. */
  together: { sheetId: string; machineName: string }[];
  /** What it left open on the machine, each with what became of it, and what of earlier sheets it settled. */
  leftOpen: { id: string; title: string; settledAt: Date | null }[];
  settled: { id: string; title: string }[];
}

/** When the server heard of each: by its own clock, whatever the device's said. */
async function arrivals(entries: readonly RunEvent[]): Promise<Map<string, Date>> {
  if (entries.length === 0) return new Map();
  const rows = await getDb().models.LogEntry.findAll({
    attributes: ["id", "receivedAt"],
    where: { id: entries.map((entry) => entry.id) },
    raw: true,
  });
  return new Map(rows.map((row) => [row.id, row.receivedAt]));
}

/** What the sheet left open, and what of earlier sheets it settled. */
async function itemsOfSheet(sheetId: string): Promise<Pick<RecordView, "leftOpen" | "settled">> {
  const { models } = getDb();
  const shown = {
    attributes: ["id", "title", "closedAt"] as ("id" | "title" | "closedAt")[],
    order: ["arisenAt", "id"] as string[],
  };
  const [left, settled] = await Promise.all([
    models.OpenItem.findAll({ ...shown, where: { sheetId }, raw: true }),
    models.OpenItem.findAll({ ...shown, where: { closedSheetId: sheetId }, raw: true }),
  ]);
  return {
    leftOpen: left.map(({ id, title, closedAt }) => ({ id, title, settledAt: closedAt })),
    settled: settled.map(({ id, title }) => ({ id, title })),
  };
}

async function timeOnSite({ sheet, duty, timeZone }: SheetView): Promise<RecordView["onSite"]> {
  const { closedAt, closedBy } = sheet;
  if (closedAt === null || closedBy === null) return { arrivedAt: null, leftAt: null, handsOn: null };
  const [[times], minutes] = await Promise.all([
    sql.timeOnSite({ personId: closedBy, siteId: duty.siteId, closedAt, on: dayInZone(closedAt, timeZone) }),
    getDb().models.SheetMinutes.findByPk(sheet.id, { attributes: ["handsMinutes"], raw: true }),
  ]);
  return { arrivedAt: times?.arrivedAt ?? null, leftAt: times?.leftAt ?? null, handsOn: minutes?.handsMinutes ?? null };
}

/** Where and of whom the machine was when the sheet was closed: it may have moved since. */
export async function asItWas(view: SheetView): Promise<SheetView> {
  const [then] = view.sheet.closedAt === null ? [] : await sql.placeThen({ sheetId: view.sheet.id });
  if (!then) return view;
  const { siteId, timeZone, tag, serial, ...site } = then;
  // Nobody knows any more where it stood on another site.
  const place = siteId === view.duty.siteId ? {} : { ...site, area: "" };
  return {
    ...view,
    timeZone,
    duty: { ...view.duty, siteId },
    machine: { ...view.machine, tag, serial, ...place },
  };
}

/** A closed sheet as a record: everything in it follows from the log. */
export async function loadRecord(sheetId: string, now: Date): Promise<RecordView> {
  const view = await asItWas(await loadSheet(sheetId));
  const state = foldRun(view.procedure, view.entries);
  const named = (entry: RunEvent): NamedEntry => ({
    id: entry.id,
    at: entry.at,
    by: entry.by,
    words: entryWords(entry, view.procedure),
  });
  const late = orderEvents([...view.late, ...state.afterClosing]);
  const [cameAt, duty, letterhead, onSite, together, items] = await Promise.all([
    arrivals(late),
    getDuty(view.duty.id, now),
    letterheadOfFirm(),
    timeOnSite(view),
    signedTogether(sheetId, state.customerSignature),
    itemsOfSheet(sheetId),
  ]);
  return {
    ...view,
    state,
    steps: allRounds(view.procedure, state, { options: view.machine.options }),
    next: duty?.duty.active ? { row: duty.row, because: duty.assessed.because } : null,
    cameLate: late.map((entry) => ({ ...named(entry), cameAt: cameAt.get(entry.id) ?? null })),
    uncertain: orderEvents(view.entries)
      .filter((entry) => entry.uncertain)
      .map((entry) => ({ ...named(entry), deviceAt: entry.deviceAt ?? null })),
    unsafe: unsafeWork(view.procedure, view.entries, { options: view.machine.options }).map((one) => one.because),
    instruments: await instrumentNames(
      Object.values(state.steps).flatMap((at) => at.readings.flatMap((reading) => reading.instrument ?? [])),
    ),
    chain: await getDb().models.RecordChain.findAll({
      attributes: ["seq", "kind", "hash"],
      where: { subjectId: sheetId },
      order: ["seq"],
      raw: true,
    }),
    photos: await arrivedPhotos(state.photos.map((one) => one.photo)),
    itemNames: await namesOfItems([...state.parts, ...state.consumables].map((one) => one.item)),
    letterhead,
    onSite,
    together,
    ...items,
  };
}
