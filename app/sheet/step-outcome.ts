import { lastResults, must, type SheetStep, summaryOf, trialScatter, UNKNOWN_CAUSE } from "@core";

import { capital } from "~/kit/capital";

import { causeName, checkLine } from "./find/find-view";

type State = NonNullable<SheetStep["state"]>;

/** In a few words, what a step came to. */
export function outcomeOf(one: SheetStep): string {
  const { state } = one;
  if (!state) return "";
  if (state.status === "skipped") return `Skipped: ${state.reason}`;
  if (state.status === "not-applicable") return `Not applicable: ${state.reason}`;
  return (
    gateWords(one, state) ??
    timerWords(state) ??
    triedWords(one, state) ??
    foundWords(one, state) ??
    choiceWords(one, state) ??
    mixWords(state) ??
    readingWords(one, state) ??
    partWords(one, state) ??
    answerWords(one, state) ??
    ""
  );
}

function timerWords({ timer }: State): string | null {
  if (timer?.minutes == null) return null;
  const minutes = Math.floor(timer.minutes * 10) / 10;
  if (timer.verdict === "in") return `${minutes} min`;
  return timer.verdict === "short" ? `! cut short: ${minutes} min` : `! over the maximum: ${minutes} min`;
}

function choiceWords({ definition }: SheetStep, { answer }: State): string | null {
  if (answer === null) return null;
  if (definition.kind === "choose") return definition.schools.find((one) => one.id === answer)?.name ?? answer;
  if (definition.kind === "decide") return definition.branches.find((one) => one.id === answer)?.name ?? answer;
  return null;
}

/** Of a proof of several functions, how many are as expected, and which are not. */
function triedWords({ definition }: SheetStep, state: State): string | null {
  if (definition.kind !== "prove" || !definition.functions || !state.results) return null;
  const last = lastResults(state);
  const not = definition.functions.filter(({ id }) => last.get(id)?.ok !== true);
  const all = definition.functions.length;
  if (not.length === 0) return `${all} of ${all} as expected`;
  return `${all - not.length} of ${all} as expected; not yet: ${not.map((one) => one.name).join(", ")}`;
}

/** Of a search: what was found; how many checks there were while it goes on. */
function foundWords({ definition }: SheetStep, { answer, reason, checks = [] }: State): string | null {
  if (definition.kind !== "find") return null;
  if (answer === null) return checks.length === 0 ? null : `${checks.length} checked`;
  if (answer !== UNKNOWN_CAUSE) return `Found: ${causeName(definition, answer)}`;
  return `! Nothing found${reason ? `: ${reason}` : ""}`;
}

/** Of a search: each check with what it showed, a line each. */
export function checkLines({ definition, state }: SheetStep): string[] {
  return definition.kind === "find" ? (state?.checks ?? []).map((one) => checkLine(definition, one)) : [];
}

const tenths = (ml: number): number => Math.round(ml * 10) / 10;

function mixWords({ mixed }: State): string | null {
  if (!mixed) return null;
  const { amounts, finalMl, stockPercent, batch } = mixed;
  const stock = amounts.find((one) => one.item !== "water");
  const from = stock === undefined ? "" : `${tenths(stock.ml)} mL in `;
  const strength = stockPercent === null ? "" : `, stock ${stockPercent} %`;
  return `${from}${tenths(finalMl)} mL${strength}${batch === null ? "" : `, batch ${batch}`}`;
}

/** What opened a gate that a temperature or a time opens. */
function gateWords({ definition }: SheetStep, { readings, timer }: State): string | null {
  if (definition.kind !== "safety") return null;
  const { belowC, minutes } = definition.coolDown ?? {};
  const last = readings.findLast((one) => !one.impossible);
  if (last && (belowC === undefined || last.value < belowC))
    return `${last.value} °C${belowC === undefined ? "" : `, below ${belowC} °C`}`;
  if (timer?.minutes == null) return last ? `${last.value} °C` : null;
  const waited = Math.floor(timer.minutes * 10) / 10;
  if (minutes === undefined) return null;
  return waited >= minutes ? `after ${waited} min, at least ${minutes} min` : `! after ${waited} of ${minutes} min`;
}

/** The latest reading of each point; their mean or spread where that is what is judged. */
function readingWords({ definition }: SheetStep, state: State): string | null {
  const possible = state.readings.filter((one) => !one.impossible);
  const latest = [...new Map(possible.map((reading) => [reading.point, reading])).values()].sort(
    (a, b) => a.point - b.point,
  );
  if (latest.length === 0) return null;
  const points = definition.kind === "measure" ? (definition.points ?? []) : [];
  const figures = latest.map((reading) => {
    const place = points[reading.point];
    return `${place === undefined ? "" : `${capital(place)} `}${reading.value}${reading.verdict === "in" ? "" : " !"}`;
  });
  let summary = "";
  if (definition.kind === "measure" && definition.judge !== undefined && definition.judge !== "each") {
    const value = summaryOf(
      definition.judge,
      latest.map((one) => one.value),
    );
    const out = state.answer === "low" || state.answer === "high" ? " !" : "";
    const scatter = trialScatter(
      definition,
      latest.map((one) => one.value),
    );
    summary = `, ${definition.judge} ${Number(value.toPrecision(4))}${out}${scatter ? `, ! ${Number(scatter.apart.toPrecision(4))} apart` : ""}`;
  }
  const left = state.reason ? `, left so: ${state.reason}` : "";
  const decided = state.decided?.choice === "now" && state.answer === "in" ? ", renewed before its limit" : "";
  return `${figures.join(" · ")} ${must(latest[0]).unit}${summary}${left}${decided}`;
}

function partWords({ definition }: SheetStep, { slots }: State): string | null {
  if (slots.length === 0) return null;
  if (definition.kind === "turn") return slots.length === definition.slots.length ? "turned or renewed" : "";
  if (definition.kind === "replace" && definition.some) return `${slots.length} new`;
  return definition.kind === "replace" ? `${slots.length} of ${definition.slots.length} new` : null;
}

function answerWords({ definition }: SheetStep, state: State): string | null {
  if (definition.kind === "count" && state.status === "open") return `${state.counted} of ${definition.times}`;
  if (definition.kind === "repeat" && state.answer !== null)
    return state.answer === "clean" ? definition.clean : definition.again;
  if (definition.kind === "prove" && state.answer === "ok") return "as expected";
  if (state.answer === "ok") return "as it should be";
  return state.answer === "not-ok" ? "! not as it should be" : null;
}
