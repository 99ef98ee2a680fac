import { allRounds, foldRun, type Limits, type SheetStep } from "@core";

import { asItWas } from "~/book/records.server";
import type { RecordRow } from "~/book/search/records-found.server";
import { instrumentNames } from "~/sheet/instruments.server";
import { loadSheet } from "~/sheet/log/sheets.server";

export const READING_COLUMNS = [
  "record_no",
  "sheet",
  "closed_on",
  "outcome",
  "customer",
  "site",
  "machine_tag",
  "machine",
  "serial",
  "work",
  "procedure",
  "procedure_version",
  "step",
  "pass",
  "point",
  "value",
  "unit",
  "min",
  "above",
  "max",
  "below",
  "verdict",
  "stage",
  "instrument",
  "calibration_expired",
  "read_by",
  "read_at",
  "first_logged_as",
  "corrected_because",
] as const;

type Cell = string | number | null;

/** Every reading of a record, a row each: as it reads now, with what it was logged as where it was corrected. */
export async function readingRows(row: RecordRow): Promise<Cell[][]> {
  const view = await asItWas(await loadSheet(row.id));
  const { machine, procedure, persons, sheet } = view;
  const state = foldRun(procedure, view.entries);
  const steps = allRounds(procedure, state, { options: machine.options });
  const instruments = await instrumentNames(
    steps.flatMap((one) => (one.state?.readings ?? []).flatMap((reading) => reading.instrument ?? [])),
  );
  const of: Cell[] = [
    row.number,
    sheet.id,
    row.onDay,
    row.outcome,
    machine.customerName,
    machine.siteName,
    machine.tag,
    machine.name,
    machine.serial,
    row.title,
    procedure.id,
    procedure.version,
  ];
  return steps.flatMap(({ definition, round, state: at }) =>
    (at?.readings ?? []).map((reading) => {
      const limits = limitsOf(definition);
      const points = definition.kind === "measure" ? (definition.points ?? []) : [];
      return [
        ...of,
        definition.title,
        round,
        points[reading.point] ?? "",
        reading.value,
        reading.unit,
        limits.min ?? null,
        limits.above ?? null,
        limits.max ?? null,
        limits.below ?? null,
        reading.impossible ? "impossible" : reading.verdict,
        reading.stage,
        reading.instrument === null ? "" : (instruments[reading.instrument] ?? "not registered"),
        reading.instrumentExpired ? "yes" : "no",
        persons[reading.by] ?? "",
        reading.at,
        ...corrected(reading),
      ];
    }),
  );
}

/** What its readings are held against. */
function limitsOf(step: SheetStep["definition"]): Limits {
  if (step.kind === "reset") return { min: step.expect, max: step.expect };
  return (step.kind === "measure" ? step.limits : undefined) ?? {};
}

type Reading = NonNullable<SheetStep["state"]>["readings"][number];

function corrected({ corrections }: Reading): [first: Cell, because: Cell] {
  const [first] = corrections;
  if (!first) return [null, ""];
  const { value } = first.old;
  return [value ?? null, corrections.map((one) => one.why).join("; ")];
}
