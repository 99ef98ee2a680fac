import type { Step, StepCondition } from "./procedure";

/** Answers and options in so many combinations at most: beyond, only conditions that are the same are seen as such. */
const MOST_CASES = 4096;

/**
 * Whether one of some steps stands whenever another does: a gate on fitted and one on not fitted cover every machine.
 *
 * @param steps of the procedure, for the answers that a step may be given
 */
export function alwaysCovered(step: Step, by: readonly Step[], steps: ReadonlyMap<string, Step>): boolean {
  if (by.some((one) => (one.when ?? []).length === 0 || whenever(one, step))) return true;
  if (by.length < 2) return false;
  const conditions = [step, ...by].flatMap((one) => one.when ?? []);
  const names = [...new Set(conditions.map(nameOf))];
  const domains = names.map((name) => domainOf(name, conditions, steps));
  if (domains.reduce((product, domain) => product * domain.length, 1) > MOST_CASES) return false;
  const chosen = new Map<string, string>();
  const holds = (one: Step): boolean =>
    (one.when ?? []).every((condition) => meets(condition, chosen.get(nameOf(condition))));
  const covered = (at: number): boolean => {
    const name = names[at];
    if (name === undefined) return !holds(step) || by.some(holds);
    return (domains[at] ?? []).every((value) => {
      chosen.set(name, value);
      return covered(at + 1);
    });
  };
  return covered(0);
}

/** Whether one step happens whenever another does: its conditions are among the other's. */
export function whenever(step: Step, other: Step): boolean {
  const given = (other.when ?? []).map((one) => JSON.stringify(one));
  return (step.when ?? []).every((one) => given.includes(JSON.stringify(one)));
}

/** Whether two steps stand on different branches, so that one sheet never has both. */
export function exclusive(a: Step, b: Step): boolean {
  const clash = (x: StepCondition, y: StepCondition): boolean => {
    if ("option" in x && "option" in y) return x.option === y.option && x.fitted !== y.fitted;
    return "step" in x && "step" in y && x.step === y.step && x.is !== y.is && ![x.is, y.is].includes("out");
  };
  return (a.when ?? []).some((x) => (b.when ?? []).some((y) => clash(x, y)));
}

const nameOf = (condition: StepCondition): string =>
  "option" in condition ? `option ${condition.option}` : `step ${condition.step}`;

function meets(condition: StepCondition, value: string | undefined): boolean {
  if ("option" in condition) return String(condition.fitted) === value;
  return condition.is === "out" ? value === "low" || value === "high" : value === condition.is;
}

/** What an option or an answer can be; an answer that is not listed stands for any other. */
function domainOf(name: string, conditions: readonly StepCondition[], steps: ReadonlyMap<string, Step>): string[] {
  const own = conditions.find((condition) => nameOf(condition) === name);
  if (!own || "option" in own) return ["true", "false"];
  const asked = steps.get(own.step);
  switch (asked?.kind) {
    case "choose":
      return asked.schools.map((one) => one.id);
    case "decide":
      return asked.branches.map((one) => one.id);
    case "inspect":
      return ["ok", "not-ok"];
    case "measure":
    case "reset":
      return ["in", "low", "high"];
    case "repeat":
      return ["clean", "again"];
    default:
      return [...conditions.flatMap((one) => ("step" in one && one.step === own.step ? [one.is] : [])), ""];
  }
}
