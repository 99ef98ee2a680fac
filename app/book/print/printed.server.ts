import { limitWords, sumMaterials } from "@core";

import { askedWords } from "~/book/asked-words";
import { looseEnds } from "~/book/loose-ends";
import type { RecordView } from "~/book/records.server";
import { timeOnSiteWords } from "~/book/time-on-site";
import { capital } from "~/kit/capital";
import { outcomeName } from "~/kit/outcomes";
import { materialName, partName } from "~/sheet/item-names";
import { checkLines, outcomeOf } from "~/sheet/step-outcome";
import { siteTime } from "~/ui/site-time";

import { machineFacts } from "./machine-facts";
import type { PrintedRecord } from "./printed-record";

/** What a record says on paper. */
export function printed(record: RecordView): PrintedRecord {
  const { sheet, title, procedure, machine, state } = record;
  const { outcome } = state;
  return {
    sheetId: sheet.id,
    name: `${title}: ${machine.name} ${machine.tag}`,
    closedAt: (sheet.closedAt ?? sheet.openedAt).toISOString(),
    letterhead: record.letterhead,
    title,
    kind: outcome ? `Visit record: ${outcomeName(outcome.outcome)}, work not done` : "Service record",
    facts: factsOf(record),
    exceptions: exceptionsOf(record),
    steps: record.steps.map((one) => stepColumns(record, one)),
    lists: listsOf(record),
    signatures: signaturesOf(record),
    vouched: record.chain.map(
      ({ kind, seq, hash }) => `${kind === "record" ? "Record" : "Addition"} no. ${seq} of the chain, SHA-256 ${hash}`,
    ),
    footer: `Sheet ${sheet.id} · ${procedure.id} v${procedure.version}`,
  };
}

const nameOf = ({ persons }: RecordView, id: string | null): string => persons[id ?? ""] ?? "unknown";

function factsOf(record: RecordView): PrintedRecord["facts"] {
  const { sheet, state, timeZone, next } = record;
  const { outcome } = state;
  const facts: PrintedRecord["facts"] = [
    ...machineFacts(record),
    ["Started", state.startedAt ? `${siteTime(state.startedAt, timeZone)} (${timeZone})` : ""],
    [
      outcome ? "Ended" : "Signed",
      sheet.closedAt ? `${siteTime(sheet.closedAt, timeZone)} by ${nameOf(record, sheet.closedBy)}` : "",
    ],
    ["Time", timeOnSiteWords(record.onSite, timeZone) ?? ""],
    ["Reason", outcome?.reason ?? ""],
    ["Signed with steps missing", state.technicianSignature?.missingReason ?? ""],
    [outcome ? "Still due" : "Next due", next ? (next.row.dueOn ?? "no day yet") : ""],
  ];
  return facts.filter(([, value]) => value !== "");
}

function stepColumns(record: RecordView, one: RecordView["steps"][number]): [string, string, string] {
  const { definition, state } = one;
  const limits =
    definition.kind === "measure" && definition.limits
      ? ` (allowed ${limitWords(definition.limits, definition.unit)})`
      : "";
  const readings = state?.readings ?? [];
  const used = [...new Set(readings.flatMap((reading) => reading.instrument ?? []))].map((id) => {
    const expired = readings.some((reading) => reading.instrument === id && reading.instrumentExpired);
    return `\nwith ${record.instruments[id] ?? "an unregistered instrument"}${expired ? ", calibration expired" : ""}`;
  });
  const asked = [...checkLines(one), ...askedWords(one)].map((words) => `\n${words}`);
  return [
    `${definition.title}${one.round > 1 ? ` (pass ${one.round})` : ""}`,
    `${outcomeOf(one) || (one.settled ? "done" : "not settled")}${limits}${used.join("")}${asked.join("")}`,
    state?.by && state.at ? `${nameOf(record, state.by)}\n${siteTime(state.at, record.timeZone)}` : "",
  ];
}

/** What is not as it should be, before everything else, a line each. */
function exceptionsOf(record: RecordView): PrintedRecord["lists"] {
  const { state, timeZone } = record;
  const { asFound } = state;
  return [
    ["How it was found", asFound ? [`${capital(asFound.found)}, ${nameOf(record, asFound.by)} says`] : []],
    [
      "Findings and notes",
      [...state.findings, ...state.notes].map((one) => `${one.severity ? `${one.severity}: ` : ""}${one.text}`),
    ],
    ["Done as it must not be", record.unsafe],
    [
      "Left open",
      record.leftOpen.map(
        (one) => `${one.title}${one.settledAt ? ` (settled ${siteTime(one.settledAt.toISOString(), timeZone)})` : ""}`,
      ),
    ],
    ["Settled of what was left before", record.settled.map((one) => one.title)],
  ];
}

/** What was fitted, used and corrected, a line each. */
function listsOf(record: RecordView): PrintedRecord["lists"] {
  const { procedure, state, timeZone } = record;
  const lot = (one: { lot?: string | null }): string => (one.lot ? `, lot ${one.lot}` : "");
  const corrections = [
    ...Object.values(state.steps).flatMap((at) => at.readings),
    ...state.parts,
    ...state.consumables,
    ...state.findings,
    ...state.notes,
    ...(state.asFound ? [state.asFound] : []),
  ].flatMap((one) => one.corrections);
  return [
    [
      "Parts fitted",
      state.parts.map((one) => `${partName(procedure, one.item, one.slot, record.itemNames)}${lot(one)}`),
    ],
    [
      "Materials used",
      sumMaterials(state.consumables).map(
        ({ item, qty, unit, lots }) =>
          `${materialName(procedure, item, record.itemNames)}, ${qty} ${unit}${lots.length > 0 ? `, lot ${lots.join(", ")}` : ""}`,
      ),
    ],
    ["Parts off, locks, and what holds for now", looseEnds(procedure, state, (id) => nameOf(record, id))],
    [
      "Times that are not certain, as the device's clock was set or wrong",
      record.uncertain.map((one) => `${one.words} (${nameOf(record, one.by)}, ${siteTime(one.at, timeZone)})`),
    ],
    [
      "Came after it was closed, no part of the record",
      record.cameLate.map((one) => `${one.words} (${nameOf(record, one.by)}, ${siteTime(one.at, timeZone)})`),
    ],
    [
      "Corrections",
      corrections.map(
        (one) =>
          `${nameOf(record, one.by)}, ${siteTime(one.at, timeZone)}: ${Object.values(one.old).join(", ")} became ${Object.values(one.set).join(", ")}; ${one.why}`,
      ),
    ],
  ];
}

function customerWords({ state: { customerSignature: customer } }: RecordView): string {
  if (customer === null) return "Customer: did not sign";
  if (customer.method === "not-present") return `Customer not present: ${customer.reason}`;
  return `Customer: ${customer.name}${customer.method === "typed" ? " (typed)" : ""}`;
}

function signaturesOf(record: RecordView): PrintedRecord["signatures"] {
  const { customerSignature: customer, technicianSignature } = record.state;
  const also = record.together.map((one) => one.machineName).join(", ");
  return {
    drawing: customer?.method === "drawn" ? customer.drawing : null,
    customer: `${customerWords(record)}${also ? `\nOne signature for the visit, with ${also}` : ""}`,
    technician: technicianSignature
      ? `Technician: ${technicianSignature.name}, signed with password`
      : "Technician: ended the sheet",
  };
}
