import { DAYS, must, pieceSums, type UseLine, useLine, type WearPiece, wearPieces, type WearValue } from "@core";
import { getDb, type SlotFitRow, type Transaction, type WearLineRow, type WearValueRow } from "@db";
import { v5 as uuidv5 } from "uuid";

import { dayInZone } from "~/kit/days/site-day";
import { grouped } from "~/kit/grouped";

import * as sql from "./wear.sql";

/** What it wears by when its meter was never read twice. */
const BY_DAY = "day";

type Fitted = Pick<
  WearLineRow,
  | ("id" | "machineId" | "slot" | "reading" | "item" | "unit" | "per" | "worse" | "limitAt" | "pool")
  | ("beganAt" | "begunBy" | "endedAt" | "current" | "n" | "meanAt" | "level" | "slope" | "sumSquares" | "residual")
  | ("firstUse" | "firstOn" | "lastUse" | "lastOn" | "lastValue" | "useNow" | "rate" | "asOf" | "stale")
>;
type Value = WearValueRow & WearValue;

/** A slot with all that was measured of it, parted into pieces. */
export interface MeasuredSlot {
  of: Pick<
    Fitted,
    | "machineId"
    | "slot"
    | "reading"
    | "item"
    | "unit"
    | "per"
    | "worse"
    | "limitAt"
    | "pool"
    | "useNow"
    | "rate"
    | "asOf"
  >;
  use: UseLine;
  pieces: WearPiece<Value>[];
}

/** What was measured of the slots of machines. */
export async function measuredSlots(
  machineIds: readonly string[],
  now: Date,
  tx?: Transaction,
): Promise<MeasuredSlot[]> {
  const { models } = getDb();
  const where = { where: { machineId: [...machineIds] }, raw: true, transaction: tx ?? null } as const;
  const machines = await sql.machinesWithZones({ machineIds }, tx);
  const values = await models.WearValue.findAll({ ...where, order: ["readAt"] });
  const fits = await models.SlotFit.findAll({ ...where, order: ["fittedAt"] });
  const meters = await metersOf(values, tx);
  const valuesOf = grouped(values, (one) => one.machineId);
  const fitsOf = grouped(fits, (one) => one.machineId);
  return machines.flatMap(({ id, family, timeZone }) =>
    slotsOf(
      { id, family, today: dayInZone(now, timeZone), now: now.getTime() },
      { values: valuesOf.get(id) ?? [], fits: fitsOf.get(id) ?? [], meters: meters.get(id) ?? new Map() },
    ),
  );
}

/**
 * Works out the lines of wear of machines from what their sheets say. What is foreseen of them is left as it was, and marked stale.
 *
 * @returns how many lines there are
 */
export async function fitMachines(machineIds: readonly string[], now: Date, tx?: Transaction): Promise<number> {
  if (machineIds.length === 0) return 0;
  const { models } = getDb();
  const where = { where: { machineId: [...machineIds] }, raw: true, transaction: tx ?? null } as const;
  const before = await models.WearLine.findAll({ ...where, attributes: ["id"] });
  const lines = (await measuredSlots(machineIds, now, tx)).flatMap(linesOf);
  const there = new Set(lines.map((one) => one.id));
  const gone = before.flatMap(({ id }) => (there.has(id) ? [] : [id]));
  if (gone.length > 0) await models.WearLine.destroy({ where: { id: gone }, transaction: tx ?? null });
  if (lines.length > 0) await sql.keepFitted(lines.map(asRow), tx);
  return lines.length;
}

/** Lines of use of the meters by which these values' parts wear, by machine and meter. */
async function metersOf(values: readonly WearValueRow[], tx?: Transaction): Promise<Map<string, Map<string, UseLine>>> {
  const metered = values.filter(({ per }) => per !== BY_DAY);
  if (metered.length === 0) return new Map();
  const rows = await getDb().models.MeterReading.findAll({
    attributes: ["machineId", "meter", "readAt", "value"],
    where: {
      machineId: [...new Set(metered.map((one) => one.machineId))],
      meter: [...new Set(metered.map((one) => one.per))],
    },
    raw: true,
    transaction: tx ?? null,
  });
  return new Map(
    [...grouped(rows, (row) => row.machineId)].map(([id, own]) => [
      id,
      new Map(
        [...grouped(own, (row) => row.meter)].flatMap(([meter, read]): [string, UseLine][] => {
          const line = useLine(read.map(({ readAt, value }) => ({ at: readAt.getTime(), value })));
          return line ? [[meter, line]] : [];
        }),
      ),
    ]),
  );
}

function slotsOf(
  machine: { id: string; family: string; today: string; now: number },
  { values, fits, meters }: { values: WearValueRow[]; fits: SlotFitRow[]; meters: ReadonlyMap<string, UseLine> },
): MeasuredSlot[] {
  const fitsOf = grouped(fits, (one) => one.slot);
  return [...grouped(values, (one) => `${one.slot} ${one.reading}`).values()].map((of) => {
    // Whatever an earlier version of the procedure said, the latest value's rule counts for all of the slot.
    const { slot, reading, item, unit, per: said, worse, limitAt } = must(of.at(-1));
    const use = said === BY_DAY ? DAYS : (meters.get(said) ?? DAYS);
    const per = use === DAYS ? BY_DAY : said;
    const measured: Value[] = [];
    for (const one of of) {
      // Another unit is another reading: what it would be in this one, nobody said.
      if (one.unit !== unit) continue;
      const at = one.readAt.getTime();
      measured.push(Object.assign(one, { at, use: use.at(at) }));
    }
    const pool = [item, machine.family, reading, per, unit].join(" ").slice(0, 250);
    return {
      of: {
        ...{ machineId: machine.id, slot, reading, item, unit, per, worse, limitAt, pool },
        ...{ useNow: use.at(machine.now), rate: use.rate, asOf: machine.today },
      },
      use,
      pieces: wearPieces(
        measured,
        (fitsOf.get(slot) ?? []).map((one) => one.fittedAt.getTime()),
      ),
    };
  });
}

function linesOf({ of, pieces }: MeasuredSlot): Fitted[] {
  return pieces.flatMap((piece) => {
    const fitted = fittedOf(piece);
    return fitted ? [{ ...of, ...fitted, id: lineId(of, piece), stale: true }] : [];
  });
}

const instant = (at: Date | null): string | null => at && at.toISOString().slice(0, 23).replace("T", " ");

/** As JSON can say it. */
const asRow = ({ beganAt, endedAt, current, stale, ...line }: Fitted) => ({
  ...line,
  ...{ beganAt: instant(beganAt), endedAt: instant(endedAt), current: Number(current), stale: Number(stale) },
});

/** The same line is the same row, however often it is worked out. */
export const lineId = (
  { machineId, slot, reading }: Pick<WearLineRow, "machineId" | "slot" | "reading">,
  { began }: Pick<WearPiece, "began">,
): string => uuidv5(`${slot} ${reading} ${began ?? "first"}`, machineId);

function fittedOf(piece: WearPiece<Value>) {
  const found = pieceSums(piece.values);
  const [first, last] = [piece.values[0], piece.values.at(-1)];
  if (!found || !first || !last) return null;
  const { n, meanAt, level, slope, sumSquares, residual } = found;
  return {
    ...{ n, meanAt, level, slope, sumSquares, residual },
    beganAt: piece.began === null ? null : new Date(piece.began),
    begunBy: piece.by,
    endedAt: piece.ended === null ? null : new Date(piece.ended),
    current: piece.ended === null,
    ...{ firstUse: first.use, firstOn: first.onDay, lastUse: last.use, lastOn: last.onDay, lastValue: last.value },
  };
}
