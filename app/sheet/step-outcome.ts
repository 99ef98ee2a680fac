import type { SheetStep } from "@core";

/** In a few words, what a step came to. */
export function outcomeOf(one: SheetStep): string {
  const { state, definition } = one;
  if (!state) return "";
  if (state.status === "skipped" || state.status === "not-applicable") return `${state.status === "skipped" ? "Skipped" : "Not applicable"}: ${state.reason}`;
  if (state.timer?.minutes != null) {
    const minutes = Math.floor(state.timer.minutes * 10) / 10;
    return state.timer.verdict === "in"
      ? `${minutes} min`
      : state.timer.verdict === "short"
        ? `! cut short: ${minutes} min`
        : `! over the maximum: ${minutes} min`;
  }
  const latest = new Map(state.readings.map((reading) => [reading.point, reading]));
  if (latest.size > 0) {
    const figures = [...latest.entries()].sort(([a], [b]) => a - b).map(([, reading]) => `${reading.value}${reading.verdict === "in" ? "" : " !"}`);
    return `${figures.join(" · ")} ${[...latest.values()][0]!.unit}${state.reason ? `, left so: ${state.reason}` : ""}`;
  }
  if (definition.kind === "replace" && state.slots.length > 0) return `${state.slots.length} of ${definition.slots.length} new`;
  if (definition.kind === "count" && state.status === "open") return `${state.counted} of ${definition.times}`;
  if (definition.kind === "repeat" && state.answer !== null) return state.answer === "clean" ? definition.clean : definition.again;
  if (definition.kind === "prove" && state.answer === "ok") return "as expected";
  if (state.answer === "ok") return "as it should be";
  if (state.answer === "not-ok") return "! not as it should be";
  return "";
}
