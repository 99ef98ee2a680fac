import {
  assessDue,
  foldRun,
  type MissingStep,
  missingSteps,
  must,
  type Procedure,
  runResults,
  type RunState,
  sheetEffects,
  sheetSteps,
  sumMaterials,
  unsafeWork,
} from "@core";
import { getDb } from "@db";

import { itemTitle, severityWord } from "~/duties/left/left-words";
import { dueInput, factsOf, type MachineFacts } from "~/duties/machine-facts.server";
import { dayInZone } from "~/kit/days/site-day";
import { type ItemNames, materialName, partName } from "~/sheet/item-names";
import { countedWork } from "~/sheet/log/credits.server";
import { loadSheet, type SheetView } from "~/sheet/log/sheets.server";
import * as openSheets from "~/sheet/open-sheets.sql";
import { namesOfItems } from "~/stores/items/names-of-items.server";

/** A sheet of a visit as the customer is told of it, before anybody signs. */
export interface SheetToSign {
  sheetId: string;
  title: string;
  machine: { name: string; tag: string };
  done: number;
  of: number;
  missing: MissingStep[];
  /** In words, a line each. */
  found: string[];
  left: string[];
  parts: string[];
  materials: string[];
  /** When the duty comes due again, signed as it stands now; null when it has no day. */
  next: { on: string | null; because: string[]; stays: boolean };
}

export interface VisitToSign {
  site: { name: string; customer: string };
  today: string;
  /** Whom the firm knows at the site. */
  known: string[];
  sheets: SheetToSign[];
}

/**
 * What is signed with a sheet: the sheet itself first, then what else is open in the person's hands at its site. Null when the
 * sheet is signed or ended.
 */
export async function visitToSign(personId: string, sheetId: string, now: Date): Promise<VisitToSign | null> {
  const view = await loadSheet(sheetId);
  if (view.sheet.status !== "open") return null;
  const others = (await openSheets.openSheets({ personId })).filter(
    (row) => row.siteId === view.duty.siteId && row.sheetId !== sheetId,
  );
  const views = [view, ...(await Promise.all(others.reverse().map((row) => loadSheet(row.sheetId))))];
  const folded = views.map((one) => ({ view: one, state: foldRun(one.procedure, one.entries) }));
  const machineIds = [...new Set(views.map((one) => one.machine.id))];
  const [site, names, facts] = await Promise.all([
    getDb().models.Site.findByPk(view.duty.siteId, { attributes: ["contacts"], raw: true }),
    namesOfItems(folded.flatMap(({ state }) => [...state.parts, ...state.consumables].map((one) => one.item))),
    factsOf(machineIds),
  ]);
  const factsBy = new Map(facts.map((one) => [one.machineId, one]));
  return {
    site: { name: view.machine.siteName, customer: view.machine.customerName },
    today: dayInZone(now, view.timeZone),
    known: must(site).contacts.flatMap(({ name }) => (name === "" ? [] : [name])),
    sheets: folded.map((one) => sheetToSign(one, names, must(factsBy.get(one.view.machine.id)), now)),
  };
}

interface Folded {
  view: SheetView;
  state: RunState;
}

function sheetToSign({ view, state }: Folded, names: ItemNames, known: MachineFacts, now: Date): SheetToSign {
  const { procedure, machine, entries, sheet } = view;
  const facts = { options: machine.options };
  const steps = sheetSteps(procedure, state, facts);
  const unsafe = unsafeWork(procedure, entries, facts);
  const { left } = sheetEffects(
    { id: sheet.id, closedAt: now.toISOString(), unsafe },
    procedure,
    { ...state, status: "signed" },
    facts,
  );
  return {
    sheetId: sheet.id,
    title: view.title,
    machine: { name: machine.name, tag: machine.tag },
    done: steps.filter((one) => one.settled).length,
    of: steps.length,
    missing: missingSteps(procedure, state, facts),
    found: left.flatMap((one) => (one.kind === "finding" ? [`${severityWord(one.severity)}: ${one.because}`] : [])),
    left: left.flatMap((one) =>
      one.kind === "finding"
        ? []
        : [
            itemTitle(
              { ...one, id: "", sheetId: "", since: "", again: [], closed: null },
              procedure,
              names[one.item ?? ""] ?? null,
            ),
          ],
    ),
    parts: countedParts(procedure, state, names),
    materials: sumMaterials(state.consumables).map(
      ({ item, qty, unit }) => `${materialName(procedure, item, names)}, ${qty} ${unit}`,
    ),
    next: nextIfSigned({ view, state }, known, now),
  };
}

/** Parts by name, several of one in one line. */
function countedParts(procedure: Procedure, state: RunState, names: ItemNames): string[] {
  const counted = new Map<string, number>();
  for (const { item, slot } of state.parts) {
    const name = partName(procedure, item, slot, names);
    counted.set(name, (counted.get(name) ?? 0) + 1);
  }
  return [...counted].map(([name, count]) => (count > 1 ? `${count} × ${name}` : name));
}

function nextIfSigned({ view, state }: Folded, facts: MachineFacts, now: Date): SheetToSign["next"] {
  const { duty, procedure, entries, machine, timeZone } = view;
  if (!duty.active) return { on: null, because: [], stays: false };
  const today = dayInZone(now, timeZone);
  // What is not worked yet is left out once it is signed.
  const signed = { entries, state: { ...state, status: "signed" as const } };
  const { whole } = countedWork(procedure, signed, { options: machine.options, hardStop: duty.hardStop });
  const { meters } = runResults(procedure, state, { options: machine.options });
  const completions = whole ? [...facts.completions, { planId: duty.id, on: today, meters }] : facts.completions;
  const read = { ...facts.meters };
  for (const [meter, value] of Object.entries(meters)) read[meter] = [...(read[meter] ?? []), { on: today, value }];
  const { dueOn, because } = assessDue(dueInput(duty, { ...facts, completions, meters: read }, today));
  return { on: dueOn, because, stays: !whole };
}
