import { foldRun, type Procedure, type RunEvent, type RunState, unsafeWork } from "@core";
import type { LinkKind } from "@db";

import { bitsOf, type Exception } from "./exceptions";

/** Most words of one record that find it: the first of a very long one. */
const MOST_WORDS = 400;
const LONGEST_WORD = 40;
const LONGEST_LOT = 120;

export interface Link {
  kind: LinkKind;
  value: string;
}

/** Words as they are looked up: small letters without marks, each once. */
export function wordsIn(text: string): string[] {
  const plain = text
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .toLowerCase();
  return [...new Set((plain.match(/[\p{L}\p{N}]+/gu) ?? []).map((word) => cut(word, LONGEST_WORD)))];
}

/** Whole characters of a text: half of one is no text. */
function cut(text: string, most: number): string {
  return text.length <= most ? text : Array.from(text).slice(0, most).join("");
}

/** A lot as it is looked up: however its letters were typed. */
export function lotKey(lot: string): string {
  return cut(lot.normalize("NFKC").trim().toLowerCase(), LONGEST_LOT);
}

/**
 * What a closed sheet is found by, from its log: what is not as it should be, who had a hand in it, what was fitted, used and
 * measured with, and the words of its notes, findings and reasons. Corrected facts count as they read now.
 *
 * @param late what came when it was closed, which is no part of it: found all the same
 */
export function summaryOfSheet(
  procedure: Procedure,
  { entries, late }: { entries: readonly RunEvent[]; late: readonly RunEvent[] },
  options: readonly string[],
): { exceptions: number; links: Link[] } {
  const state = foldRun(procedure, entries);
  const beside = [...late, ...state.afterClosing];
  const exceptions = new Set(exceptionsOf(state));
  if (beside.length > 0) exceptions.add("late");
  if (entries.some((one) => one.uncertain)) exceptions.add("clock");
  if (unsafeWork(procedure, entries, { options: [...options] }).length > 0) exceptions.add("unsafe");
  const readings = Object.values(state.steps).flatMap((at) => at.readings);
  const links: [LinkKind, string][] = [
    ...[...entries, ...late].map(({ by }): [LinkKind, string] => ["person", by]),
    ...[...state.parts, ...state.consumables].map(({ item }): [LinkKind, string] => ["item", item]),
    ...lotsOf(state).map((lot): [LinkKind, string] => ["lot", lotKey(lot)]),
    ...readings.flatMap(({ instrument }): [LinkKind, string][] => (instrument ? [["instrument", instrument]] : [])),
    ...[...exceptions].map((name): [LinkKind, string] => ["exception", name]),
    ...(exceptions.size > 0 ? [["exception", "any"] as [LinkKind, string]] : []),
    ...wordsIn([...textsOf(state), ...beside.flatMap(textOfEntry)].join(" "))
      .slice(0, MOST_WORDS)
      .map((word): [LinkKind, string] => ["word", word]),
  ];
  const once = new Map(links.filter(([, value]) => value !== "").map((link) => [link.join(" "), link]));
  return { exceptions: bitsOf(exceptions), links: [...once.values()].map(([kind, value]) => ({ kind, value })) };
}

function exceptionsOf(state: RunState): Exception[] {
  const steps = Object.values(state.steps);
  const readings = steps.flatMap((at) => at.readings);
  const isOut = steps.some(
    ({ answer, timer }) =>
      answer === "low" ||
      answer === "high" ||
      answer === "not-ok" ||
      timer?.verdict === "short" ||
      timer?.verdict === "long",
  );
  const found: [Exception, boolean][] = [
    ["limit", isOut || readings.some((one) => one.verdict !== "in" && !one.impossible)],
    ["finding", state.findings.length > 0],
    ["skipped", steps.some((at) => at.status === "skipped")],
    ["missing", Boolean(state.technicianSignature?.missingReason)],
    ["corrected", Object.keys(state.corrections).length > 0],
    ["ended", state.outcome !== null],
    ["expired", readings.some((one) => one.instrumentExpired)],
  ];
  return found.flatMap(([name, is]) => (is ? [name] : []));
}

function lotsOf(state: RunState): string[] {
  const mixed = Object.values(state.steps).flatMap((at) => at.mixed?.amounts ?? []);
  return [...state.parts, ...state.consumables, ...mixed].flatMap(({ lot }) => lot ?? []);
}

/** What was written in it, by whoever worked on it. */
function textsOf(state: RunState): string[] {
  return [
    ...state.findings.map((one) => one.text),
    ...state.notes.map((one) => one.text),
    ...Object.values(state.steps).flatMap((at) => [
      at.reason ?? "",
      ...(at.results ?? []).map((one) => one.note ?? ""),
    ]),
    state.outcome?.reason ?? "",
    state.technicianSignature?.missingReason ?? "",
    ...state.interim.flatMap((one) => [one.text, one.ended?.note ?? ""]),
    ...state.putRight.map((one) => one.text ?? ""),
    ...state.photos.map((one) => one.caption ?? ""),
    ...Object.values(state.corrections).flatMap((list) => list.map((one) => one.why)),
  ];
}

function textOfEntry(entry: RunEvent): string[] {
  if (entry.type === "note" || entry.type === "finding") return [entry.text];
  return "reason" in entry && typeof entry.reason === "string" ? [entry.reason] : [];
}
