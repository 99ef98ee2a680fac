import { inWords, limitWords, type Procedure, type Step } from "@core";

function gateWords({ checks, coolDown }: Extract<Step, { kind: "safety" }>): string {
  const until: string[] = [];
  if (coolDown?.belowC !== undefined) until.push(`below ${coolDown.belowC} °C`);
  if (coolDown?.minutes !== undefined) until.push(`after ${coolDown.minutes} min`);
  return [...checks, ...until].join(" · ");
}

function measureWords(step: Extract<Step, { kind: "measure" }>): string {
  const times = step.points ? `, ${step.points.length} points` : step.trials ? `, ${step.trials} runs` : "";
  const judged = step.judge && step.judge !== "each" ? ` (${step.judge})` : "";
  const { limits, ofClean } = step;
  const own = ofClean ? `, ${limitWords(ofClean, "times its own clean value")}` : "";
  return `Reading (${step.unit})${times}${judged}${limits ? `, ${limitWords(limits, step.unit)}` : ""}${own}`;
}

/** What a step wants, in a line. */
export function stepWords(step: Step): string {
  switch (step.kind) {
    case "safety":
      return gateWords(step);
    case "inspect":
      return `As it should be: ${step.asItShouldBe}. If not: ${step.ifNot}`;
    case "measure":
      return measureWords(step);
    case "wait":
      return `${step.minMinutes}${step.maxMinutes === undefined ? "" : ` to ${step.maxMinutes}`} minutes${step.maxMinutes === undefined ? " or more" : ""}`;
    case "count":
      return `${step.times} times`;
    case "repeat":
      return `${step.clean}, or: ${step.again}`;
    case "prove":
      return `Expected: ${step.expect}`;
    case "reset":
      return `Shows ${step.expect} afterwards`;
    case "hand-off":
      return `To ${step.to}`;
    case "mix":
      return "Made up with the stock's strength as it is";
    case "turn":
      return "Turned while a use is left, then replaced";
    case "choose":
      return step.schools.map((one, i) => `${one.name}${i === 0 ? " (default)" : ""}: ${one.why}`).join(" · ");
    case "decide":
      return step.branches.map((one) => one.name).join(" · ");
    case "find":
      return `${step.checks.length} checks for ${step.causes.length} causes`;
    case "nested":
      return `All steps of ${step.procedure}, version ${step.version}`;
    case "replace":
      return step.some ? "Those found worn" : "";
    case "do":
      return "";
  }
}

/**
 * When a step is there at all, in the procedure's own names.
 *
 * @param called what an earlier step is called here; its title when absent
 */
export function whenWords(
  step: Step,
  procedure: Pick<Procedure, "options" | "steps">,
  called?: (id: string) => string,
): string {
  const option = (id: string): string => procedure.options.find((one) => one.id === id)?.name ?? inWords(id);
  const asked = (id: string): Step | undefined => procedure.steps.find((one) => one.id === id);
  return (step.when ?? [])
    .map((one) => {
      if ("option" in one) return `${one.fitted ? "with" : "without"}: ${option(one.option)}`;
      const step = asked(one.step);
      return `if ${called?.(one.step) ?? `"${step?.title ?? inWords(one.step)}"`} is ${answerWords(step, one.is)}`;
    })
    .join(", ");
}

/** What a step came to: an answer by its name, as it stands beside the question. */
function answerWords(asked: Step | undefined, is: string): string {
  const answers = asked?.kind === "choose" ? asked.schools : asked?.kind === "decide" ? asked.branches : [];
  const name = answers.find((one) => one.id === is)?.name;
  if (name !== undefined) return `"${name}"`;
  if (asked === undefined) return inWords(is);
  return (asked.kind === "prove" && is === "ok" ? "as expected" : JUDGED[is]) ?? inWords(is);
}

/** How a step was judged, in the words beside its boxes. */
const JUDGED: Record<string, string> = {
  ok: "as it should be",
  "not-ok": "not so",
  in: "within its limits",
  out: "out of its limits",
  low: "too low",
  high: "too high",
};

export const STEP_KINDS: Record<Step["kind"], string> = {
  safety: "Safety gate",
  do: "Do",
  inspect: "Inspect",
  measure: "Measure",
  wait: "Wait",
  mix: "Mix",
  count: "Count",
  replace: "Replace",
  turn: "Turn",
  repeat: "Repeat until",
  choose: "Choose a school",
  decide: "Decide",
  reset: "Reset a counter",
  prove: "Prove",
  "hand-off": "Hand off",
  find: "Find the cause",
  nested: "Another procedure",
};
