import { inWords, limitWords, type MixRecipe, type Procedure, recipeAmounts, type Step } from "@core";

import { volumeWords } from "~/bench/calculator-why";
import { attempt } from "~/bench/fields";
import { whenWords } from "~/procedures/editor/step-words";
import { materialName, placesOf } from "~/sheet/item-names";
import { partsInWords } from "~/sheet/parts-in-words";

type Sheet = Pick<Procedure, "options" | "steps" | "materials" | "parts">;

/**
 * A procedure's steps as they stand on paper for a machine: what it does not have is no line, nor is a gate that is there for
 * nothing else. All of them without a machine.
 */
export function stepsOnPaper({ steps }: Pick<Procedure, "steps">, options: readonly string[] | null): Step[] {
  if (options === null) return steps;
  const kept = steps.filter((step) =>
    (step.when ?? []).every((one) => !("option" in one) || options.includes(one.option) === one.fitted),
  );
  const ids = new Set(kept.map((step) => step.id));
  return kept.filter((step) => step.kind !== "safety" || !step.serves || step.serves.some((id) => ids.has(id)));
}

/** What a step wants, in lines: nothing on the screen but its buttons that the paper does not say. */
export const wantsOnPaper = (step: Step, procedure: Sheet): string[] =>
  [...partsLines(step), ...kindLines(step, procedure)].filter((line) => line !== "");

function partsLines({ takesOff = [], putsBack = [] }: Step): string[] {
  // Those that were in alike and are put to one place stand together.
  const alike = new Map<string, string[]>();
  for (const part of takesOff) {
    const how = [part.wayRound, part.place].filter((word) => word !== undefined && word !== "").join("; ");
    alike.set(how, [...(alike.get(how) ?? []), partsInWords(part)]);
  }
  return [
    ...[...alike].map(([how, parts]) => `Comes off${how === "" ? "" : ` (${how})`}: ${parts.join(", ")}`),
    putsBack.length > 0 ? `Goes back on: ${putsBack.map(partsInWords).join(", ")}` : "",
  ];
}

function kindLines(step: Step, procedure: Sheet): string[] {
  switch (step.kind) {
    case "inspect":
      return [`As it should be: ${step.asItShouldBe}. If not: ${step.ifNot}`];
    case "measure":
      return measureLines(step);
    case "wait":
      return waitLines(step);
    case "prove":
      return [`Expected: ${step.expect}`];
    case "safety":
      return [step.checks.join(" · ")];
    case "reset":
      return [`Shows ${step.expect} afterwards`];
    case "choose":
      return [asks(step), ...step.schools.map((one) => `${one.name}: ${one.why}`)];
    case "decide":
      return [asks(step)];
    case "mix":
      return mixLines(step.recipe, procedure);
    case "turn":
      return [
        `Turned while a use is left, then replaced: ${placesOf(procedure, step)
          .map((place) => place.name)
          .join(", ")}`,
      ];
    case "count":
      return [`Each: ${step.each}`];
    case "repeat":
      return [asks(step), againWords(step, procedure)];
    case "hand-off":
      return [`To ${step.to}`];
    case "find":
      return findLines(step);
    default:
      return [];
  }
}

/** Every check with what it shows, in the guide's order: paper does not know what was found. */
const findLines = (step: Extract<Step, { kind: "find" }>): string[] =>
  step.checks.map(
    (check) =>
      `☐ ${check.title} (${check.minutes} min): ${check.finds
        .map(({ cause, shows }) => `${shows}: ${step.causes.find((one) => one.id === cause)?.name ?? cause}`)
        .join("; ")}`,
  );

/** The question, where the title is another. */
const asks = ({ question, title }: { question: string; title: string }): string => (question === title ? "" : question);

function againWords({ again, from, maxRounds }: Extract<Step, { kind: "repeat" }>, procedure: Sheet): string {
  const most = maxRounds === undefined ? "" : `, at most ${maxRounds} times in all`;
  return `${again}: once more from no. ${numberOf(procedure, from)}${most}`;
}

function measureLines(step: Extract<Step, { kind: "measure" }>): string[] {
  const { limits, ofClean, unit, judge, retest, advice } = step;
  const judged = judge === "mean" ? " (the mean of all)" : judge === "spread" ? " (highest less lowest)" : "";
  return [
    limits ? `Allowed: ${limitWords(limits, unit)}${judged}` : "",
    ofClean ? `Allowed: ${limitWords(ofClean, "times its own clean value")}${judged}` : "",
    ...adviceLines(advice),
    retest ? "Out: set right and measured again, both figures stay readable" : "",
  ];
}

/** What to do about a reading beyond its limits; most advice says itself on which side that is. */
function adviceLines({ low = "", high = "" }: { low?: string; high?: string } = {}): string[] {
  if (low === high) return [low === "" ? "" : `Out of limits: ${low}`];
  const saysItself = /^(?:low|high|below|above|under|over|less|more|too)/i;
  return [
    low === "" || saysItself.test(low) ? low : `Too low: ${low}`,
    high === "" || saysItself.test(high) ? high : `Too high: ${high}`,
  ];
}

function waitLines({ minMinutes, maxMinutes, ifShort, ifLong, attended }: Extract<Step, { kind: "wait" }>): string[] {
  return [
    `${minMinutes}${maxMinutes === undefined ? " min or more" : ` to ${maxMinutes} min`}${attended ? ", stay by it" : ""}`,
    ifShort ? `Shorter: ${ifShort}` : "",
    ifLong ? `Longer: ${ifLong}` : "",
  ];
}

/** What is measured out at the strength on the label: at another strength it is worked out anew. */
function mixLines(recipe: MixRecipe, procedure: Sheet): string[] {
  const stock = recipe.by === "dilution" ? procedure.materials.find((one) => one.item === recipe.stock) : undefined;
  const wanted =
    recipe.by !== "dilution"
      ? ""
      : `Wanted: ${"ppm" in recipe.target ? `${recipe.target.ppm} ppm` : `${recipe.target.percent} %`}`;
  if (recipe.by === "dilution" && stock?.stockPercent === undefined) return [wanted];
  const ml = recipe.by === "additive" ? recipe.tankMl : recipe.finalMl;
  // A stock weaker than what is wanted makes no solution: its label is looked at on the spot.
  const amounts = attempt(() => recipeAmounts(recipe, ml, stock?.stockPercent));
  if (!amounts.value) return [wanted, amounts.problem];
  const words = amounts.value
    .map(
      (one) => `${volumeWords(one.ml, "metric")} ${one.item === "water" ? "water" : materialName(procedure, one.item)}`,
    )
    .join(" + ");
  return [wanted, stock ? `${words}, if the stock has ${stock.stockPercent} %` : words];
}

/** When a step is there at all, by the numbers on the paper. A gate is, when a step that it is there for is. */
export function onlyWords(step: Step, procedure: Sheet): string {
  const own = whenWords(withoutImplied(step, procedure), procedure, (id) => `no. ${numberOf(procedure, id)}`);
  if (own !== "" || step.kind !== "safety" || !step.serves) return own;
  const again = comesAgain(step, procedure);
  if (again !== null) return `when it is done again, no. ${again}`;
  const served = new Set(step.serves);
  const numbers = procedure.steps.flatMap((one, i) => (served.has(one.id) ? [i + 1] : []));
  const perhaps = procedure.steps.filter((one) => served.has(one.id)).every((one) => asked(one));
  return perhaps && numbers.length > 0 ? `for no. ${ranges(numbers)}` : "";
}

/** A gate at the head of a block, into a state that is in force the first time round: the number that leads back to it. */
function comesAgain(gate: Extract<Step, { kind: "safety" }>, { steps }: Sheet): number | null {
  const back = steps.findIndex((one) => one.kind === "repeat" && one.from === gate.id);
  const before = steps.slice(0, steps.indexOf(gate)).findLast((one) => one.kind === "safety" && one.gate);
  const inForce = before?.kind === "safety" && before.gate?.way === "in" && before.gate.state === gate.gate?.state;
  return back >= 0 && inForce ? back + 1 : null;
}

/** A step is there under what the steps that it asks about are there under: that is not said again. */
function withoutImplied(step: Step, { steps }: Sheet): Step {
  if (!step.when) return step;
  const same = (a: object, b: object): boolean => JSON.stringify(a) === JSON.stringify(b);
  const implied = step.when.flatMap((one) =>
    "step" in one ? (steps.find(({ id }) => id === one.step)?.when ?? []) : [],
  );
  return { ...step, when: step.when.filter((one) => !implied.some((other) => same(one, other))) };
}

const asked = (step: Step): boolean => (step.when ?? []).some((one) => "step" in one);

function numberOf({ steps }: Pick<Sheet, "steps">, id: string): string {
  const at = steps.findIndex((one) => one.id === id);
  return at < 0 ? inWords(id) : String(at + 1);
}

/** "3, 5 to 8": ascending numbers, those in a row drawn together. */
function ranges(numbers: readonly number[]): string {
  const rows: [number, number][] = [];
  for (const number of numbers) {
    const last = rows.at(-1);
    if (last && last[1] === number - 1) last[1] = number;
    else rows.push([number, number]);
  }
  return rows
    .map(([from, to]) => (from === to ? String(from) : to === from + 1 ? `${from}, ${to}` : `${from} to ${to}`))
    .join(", ");
}

/** Parts that go in for certain, and those that go in where a step finds it so. */
export function partsOnPaper(procedure: Sheet): { sure: string[]; perhaps: string[] } {
  const wanted = new Map<string, { sure: Set<string>; all: Set<string> }>();
  for (const step of procedure.steps) {
    if (step.kind !== "replace" && step.kind !== "turn") continue;
    const part = wanted.get(step.item) ?? { sure: new Set(), all: new Set() };
    wanted.set(step.item, part);
    for (const slot of step.slots) {
      part.all.add(slot);
      if (!asked(step) && step.kind === "replace" && !step.some) part.sure.add(slot);
    }
  }
  const rows = [...wanted].map(([item, { sure, all }]) => ({ name: materialName(procedure, item), sure, all }));
  const words = (name: string, count: number): string => (count === 1 ? name : `${count} × ${name}`);
  return {
    sure: rows.filter(({ sure }) => sure.size > 0).map(({ name, sure }) => words(name, sure.size)),
    perhaps: rows
      .filter(({ sure, all }) => all.size > sure.size)
      .map(({ name, sure, all }) => words(name, all.size - sure.size)),
  };
}
