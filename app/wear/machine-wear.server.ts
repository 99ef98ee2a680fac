import { daysBetween, must, pieceSums } from "@core";
import { getDb, type MachineRow, type StoredLine, type WearLineRow } from "@db";

import { namesOfItems } from "~/stores/items/names-of-items.server";

import { lineId, type MeasuredSlot, measuredSlots } from "./fit-lines.server";
import { freshWear } from "./foresee.server";
import { visitDuties } from "./visit-duties.server";
import { type WearChartPoints, wearChartPoints } from "./wear-chart-points";
import { wearProcedures } from "./wear-procedures.server";

/** One value of the table, with what it weighs in the line. */
export interface WearTableRow {
  on: string;
  value: number;
  stage: "found" | "left";
  /** It looked wrong, and somebody said that it is right. */
  confirmed: boolean;
  weight: number;
  sheetId: string;
  /** Use since the piece went in, or since its first value. */
  use: number;
}

export type SlotLine = Omit<WearLineRow, "line"> & { line: StoredLine | null };

export interface SlotWear {
  row: SlotLine;
  itemName: string;
  /** The meter it wears by, in words; empty for days. */
  baseName: string;
  baseUnit: string;
  values: WearTableRow[];
  chart: WearChartPoints;
  /** How long the pieces before lasted. */
  before: { from: string | null; to: string; use: number; last: number }[];
  /** Its day is further ahead than twice what was observed. */
  farAhead: boolean;
}

export interface MachineWear {
  slots: SlotWear[];
  /** Parts that a sheet measures and of which nothing was read since they went in. */
  unread: { slot: string; slotName: string; itemName: string; fittedOn: string | null }[];
}

/** All parts of a machine whose wear is measured, the likeliest past its limit first. */
export async function machineWear(
  { id: machineId, options }: Pick<MachineRow, "id" | "options">,
  now: Date,
): Promise<MachineWear> {
  await freshWear(now, machineId);
  const { models } = getDb();
  const rows = (await models.WearLine.findAll({
    where: { machineId, current: true },
    order: [["listedBy", "DESC"], "listedOn", "slot"],
    raw: true,
  })) as SlotLine[];
  const duties = await visitDuties([machineId]);
  const told = [...(await wearProcedures(duties.map((one) => one.procedureId))).values()];
  const itemIds = [...rows.map((row) => row.item), ...told.flatMap((one) => one.rules.map(({ item }) => item))];
  const names = await namesOfItems(itemIds);
  const partName = (item: string): string =>
    names[item] ?? told.flatMap((one) => one.parts).find((part) => part.item === item)?.name ?? item;
  const meters = told.flatMap((one) => one.meters);
  const measured = new Map(
    (await measuredSlots([machineId], now)).map((one) => [`${one.of.slot} ${one.of.reading}`, one]),
  );
  const fits = await models.SlotFit.findAll({
    attributes: ["slot", "onDay"],
    where: { machineId },
    order: ["fittedAt"],
    raw: true,
  });
  const seen = new Set(rows.map((row) => row.slot));
  const unread = new Map(
    told.flatMap((one) =>
      one.rules
        .filter((rule) => rule.options.every(({ option, fitted }) => options.includes(option) === fitted))
        .flatMap(({ item, slots }) =>
          slots
            .filter((slot) => !seen.has(slot))
            .map((slot) => {
              const part = one.parts.find((part) => part.item === item);
              const slotName = part?.slots.find(({ id }) => id === slot)?.name ?? slot;
              const fittedOn = fits.findLast((fit) => fit.slot === slot)?.onDay ?? null;
              return [slot, { slot, slotName, itemName: partName(item), fittedOn }] as const;
            }),
        ),
    ),
  );
  return {
    slots: rows.flatMap((row) => {
      const meter = meters.find((one) => one.id === row.per);
      const of = measured.get(`${row.slot} ${row.reading}`);
      if (!of) return [];
      return slotWear(row, of, {
        itemName: partName(row.item),
        baseName: row.per === "day" ? "" : (meter?.name ?? row.per.replaceAll("-", " ")).toLowerCase(),
        baseUnit: row.per === "day" ? "days" : (meter?.unit ?? ""),
      });
    }),
    unread: [...unread.values()],
  };
}

function slotWear(
  row: SlotLine,
  { pieces, use }: MeasuredSlot,
  names: Pick<SlotWear, "itemName" | "baseName" | "baseUnit">,
): SlotWear {
  const piece = pieces.find((one) => lineId(row, one) === row.id);
  const values = piece?.values ?? [];
  const weights = pieceSums(values)?.weights ?? [];
  const upTo = piece ? pieces.slice(0, pieces.indexOf(piece) + 1) : [];
  const origin = piece?.began == null ? row.firstUse : Math.min(row.firstUse, use.at(piece.began));
  return {
    row,
    ...names,
    values: values.map(({ onDay: on, value, stage, confirmed, sheetId, use: at }, i) => ({
      ...{ on, value, stage, confirmed, sheetId, weight: must(weights[i]), use: at - origin },
    })),
    chart: wearChartPoints(row, upTo, use),
    before: upTo.slice(0, -1).flatMap(({ values: of, began, ended }) => {
      const [first, last] = [of[0], of.at(-1)];
      if (!first || !last) return [];
      const end = ended ?? last.at;
      const used = use.at(end) - (began === null ? first.use : use.at(began));
      return [{ from: began === null ? null : first.onDay, to: last.onDay, use: used, last: last.value }];
    }),
    farAhead:
      row.crossesOn !== null &&
      daysBetween(row.asOf, row.crossesOn) > 0 &&
      daysBetween(row.firstOn, row.crossesOn) > 2 * daysBetween(row.firstOn, row.lastOn),
  };
}
