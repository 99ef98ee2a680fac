import type { Procedure } from "./procedure";

export interface ProcedureFault {
  path: string;
  message: string;
}

/**
 * References that do not hold: what a JSON Schema cannot say. A procedure with a fault is refused; whether it is good
 * practice is for the linter.
 *
 * @returns every fault, [] when none
 */
export function checkProcedure(procedure: Procedure): ProcedureFault[] {
  const faults: ProcedureFault[] = [];
  const fault = (path: string, message: string): number => faults.push({ path, message });
  const position = new Map<string, number>();
  procedure.steps.forEach((step, i) => {
    if (position.has(step.id))
      fault(`steps[${i}].id`, `Step "${step.id}" stands twice; every step needs an id of its own.`);
    else position.set(step.id, i);
  });
  const materials = new Set(procedure.materials.map((one) => one.item));
  const options = new Set(procedure.options.map((one) => one.id));
  const meters = new Set(procedure.meters.map((one) => one.id));
  const isBefore = (id: string, i: number): boolean => (position.get(id) ?? Infinity) < i;

  procedure.steps.forEach((step, i) => {
    const path = `steps[${i}]`;
    for (const use of step.uses ?? []) {
      if (!materials.has(use.item))
        fault(`${path}.uses`, `"${step.id}" uses "${use.item}", which is not on the material list.`);
    }
    for (const condition of step.when ?? []) {
      if ("option" in condition ? !options.has(condition.option) : !isBefore(condition.step, i)) {
        const name = "option" in condition ? `option "${condition.option}"` : `earlier step "${condition.step}"`;
        fault(`${path}.when`, `"${step.id}" depends on the ${name}, which does not exist.`);
      }
    }
    switch (step.kind) {
      case "wait":
        if (step.maxMinutes !== undefined && step.maxMinutes < step.minMinutes)
          fault(`${path}.maxMinutes`, `"${step.id}" has a maximum below its minimum.`);
        for (const id of step.meanwhile ?? []) {
          if ((position.get(id) ?? -1) <= i)
            fault(`${path}.meanwhile`, `"${step.id}" names "${id}" as work for meanwhile, which is no later step.`);
        }
        break;
      case "measure":
        if (step.points !== undefined && step.trials !== undefined)
          fault(`${path}.trials`, `"${step.id}" has points and trials; it can have one of them.`);
        if (step.meter !== undefined && !meters.has(step.meter))
          fault(`${path}.meter`, `"${step.id}" reads the meter "${step.meter}", which is not on the meter list.`);
        break;
      case "reset":
        if (!meters.has(step.meter))
          fault(`${path}.meter`, `"${step.id}" resets the meter "${step.meter}", which is not on the meter list.`);
        break;
      case "mix":
        for (const item of step.recipe.by === "dilution"
          ? [step.recipe.stock]
          : step.recipe.by === "additive"
            ? [step.recipe.item]
            : step.recipe.parts.map((one) => one.item)) {
          if (item !== "water" && !materials.has(item))
            fault(`${path}.recipe`, `"${step.id}" mixes "${item}", which is not on the material list.`);
        }
        break;
      case "choose":
      case "decide": {
        const answers = (step.kind === "choose" ? step.schools : step.branches).map((one) => one.id);
        if (new Set(answers).size < answers.length) fault(path, `"${step.id}" offers the same answer twice.`);
        break;
      }
      case "nested":
        if (step.procedure === procedure.id)
          fault(`${path}.procedure`, `"${step.id}" holds the procedure it stands in.`);
        break;
      case "turn":
      case "replace": {
        const part = procedure.parts.find((one) => one.item === step.item);
        if (part === undefined) {
          fault(`${path}.item`, `"${step.id}" replaces "${step.item}", which is not on the part list.`);
          break;
        }
        for (const slot of step.slots) {
          if (!part.slots.some((one) => one.id === slot))
            fault(`${path}.slots`, `"${step.id}" names the slot "${slot}", which "${part.item}" does not have.`);
        }
        if (part.pair && part.slots.some((slot) => !step.slots.includes(slot.id)))
          fault(`${path}.slots`, `"${step.id}" replaces only one of a pair.`);
        break;
      }
      case "repeat":
        if (!isBefore(step.from, i))
          fault(`${path}.from`, `"${step.id}" goes back to "${step.from}", which is no earlier step.`);
        else if (procedure.steps.slice(position.get(step.from), i).some((inner) => inner.kind === "repeat"))
          fault(`${path}.from`, `"${step.id}" holds another repeat; blocks cannot be nested.`);
        break;
      default:
        break;
    }
  });
  return faults;
}
