import { must, type SheetStep, summaryOf } from "@core";

/** In a few words, what a step came to. */
export function outcomeOf(one: SheetStep): string {
  const { state, definition } = one;
  if (!state) return "";
  if (state.status === "skipped" || state.status === "not-applicable")
    return `${state.status === "skipped" ? "Skipped" : "Not applicable"}: ${state.reason}`;
  if (state.timer?.minutes != null) {
    const minutes = Math.floor(state.timer.minutes * 10) / 10;
    return state.timer.verdict === "in"
      ? `${minutes} min`
      : state.timer.verdict === "short"
        ? `! cut short: ${minutes} min`
        : `! over the maximum: ${minutes} min`;
  }
  if (definition.kind === "choose" && state.answer !== null)
    return definition.schools.find((one) => one.id === state.answer)?.name ?? state.answer;
  if (definition.kind === "decide" && state.answer !== null)
    return definition.branches.find((one) => one.id === state.answer)?.name ?? state.answer;
  if (state.mixed) {
    const { amounts, finalMl, stockPercent, batch } = state.mixed;
    const stock = amounts.find((one) => one.item !== "water");
    const from = stock === undefined ? "" : `${Math.round(stock.ml * 10) / 10} mL in `;
    return `${from}${Math.round(finalMl * 10) / 10} mL${stockPercent === null ? "" : `, stock ${stockPercent} %`}${batch === null ? "" : `, batch ${batch}`}`;
  }
  if (definition.kind === "safety" && state.readings.length > 0) return `${must(state.readings.at(-1)).value} °C`;
  const latest = new Map(state.readings.map((reading) => [reading.point, reading]));
  if (latest.size > 0) {
    const figures = [...latest.entries()]
      .sort(([a], [b]) => a - b)
      .map(([, reading]) => `${reading.value}${reading.verdict === "in" ? "" : " !"}`);
    const summary =
      definition.kind === "measure" && definition.judge !== undefined && definition.judge !== "each"
        ? `, ${definition.judge} ${Number(
            summaryOf(
              definition.judge,
              [...latest.values()].map((one) => one.value),
            ).toPrecision(4),
          )}${state.answer === "low" || state.answer === "high" ? " !" : ""}`
        : "";
    return `${figures.join(" · ")} ${must([...latest.values()][0]).unit}${summary}${state.reason ? `, left so: ${state.reason}` : ""}`;
  }
  if (definition.kind === "turn" && state.slots.length > 0)
    return state.slots.length === definition.slots.length ? "turned or renewed" : "";
  if (definition.kind === "replace" && state.slots.length > 0)
    return `${state.slots.length} of ${definition.slots.length} new`;
  if (definition.kind === "count" && state.status === "open") return `${state.counted} of ${definition.times}`;
  if (definition.kind === "repeat" && state.answer !== null)
    return state.answer === "clean" ? definition.clean : definition.again;
  if (definition.kind === "prove" && state.answer === "ok") return "as expected";
  if (state.answer === "ok") return "as it should be";
  if (state.answer === "not-ok") return "! not as it should be";
  return "";
}
