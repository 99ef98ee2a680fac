import type { Procedure, Step, WearReading } from "./procedure";

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
  const position = new Map<string, number>();
  procedure.steps.forEach((step, i) => {
    if (position.has(step.id))
      faults.push({
        path: `steps[${i}].id`,
        message: `Step "${step.id}" stands twice; every step needs an id of its own.`,
      });
    else position.set(step.id, i);
  });
  const known: Known = {
    procedure,
    position,
    materials: new Set(procedure.materials.map((one) => one.item)),
    options: new Set(procedure.options.map((one) => one.id)),
    meters: new Set(procedure.meters.map((one) => one.id)),
  };
  faults.push(...checkStates(procedure), ...checkMeters(procedure));
  procedure.steps.forEach((step, i) => {
    const fault = (field: string, message: string): void => {
      faults.push({ path: `steps[${i}]${field && `.${field}`}`, message: `"${step.id}" ${message}` });
    };
    checkEvery(step, i, known, fault);
    checkKind(step, i, known, fault);
  });
  return faults;
}

interface Known {
  procedure: Procedure;
  /** First place of each step's id. */
  position: ReadonlyMap<string, number>;
  materials: ReadonlySet<string>;
  options: ReadonlySet<string>;
  meters: ReadonlySet<string>;
}

type Fault = (field: string, message: string) => void;
type StepOf<Kind extends Step["kind"]> = Extract<Step, { kind: Kind }>;

const isBefore = ({ position }: Known, id: string, i: number): boolean => (position.get(id) ?? Infinity) < i;

/** States that are named and not there, and such as stand twice. */
function checkStates({ states = [], leaves, begins, steps }: Procedure): ProcedureFault[] {
  const known = new Set(states.map((state) => state.id));
  const missing = (path: string, ids: readonly string[] | undefined): ProcedureFault[] =>
    (ids ?? [])
      .filter((id) => !known.has(id))
      .map((id) => ({ path, message: `The state "${id}" is not on the list of states.` }));
  const off = new Set(steps.flatMap((step) => (step.takesOff ?? []).map((one) => one.item)));
  const on = new Set(steps.flatMap((step) => (step.putsBack ?? []).map((one) => one.item)));
  return [
    ...states.flatMap((state, s) => [
      ...(states.findIndex((one) => one.id === state.id) < s
        ? [{ path: `states[${s}].id`, message: `The state "${state.id}" stands twice.` }]
        : []),
      ...missing(`states[${s}].excludes`, state.excludes),
      ...missing(`states[${s}].lostBy`, state.lostBy),
    ]),
    ...missing("leaves.states", leaves?.states),
    ...(leaves?.off ?? [])
      .filter((item) => !off.has(item) && !steps.some((step) => step.kind === "nested"))
      .map((item) => ({ path: "leaves.off", message: `"${item}" is left off, and no step takes it off.` })),
    ...(begins?.off ?? [])
      .filter((item) => !on.has(item) && !steps.some((step) => step.kind === "nested"))
      .map((item) => ({ path: "begins.off", message: `"${item}" was left off, and no step puts it back.` })),
    ...steps.flatMap((step, i) => missing(`steps[${i}].state`, step.state)),
  ];
}

/** What meters run within: another of the list, in the same unit, and in the end none. */
function checkMeters({ meters }: Procedure): ProcedureFault[] {
  const byId = new Map(meters.map((meter) => [meter.id, meter]));
  return meters.flatMap((meter, m) => {
    if (meter.within === undefined) return [];
    const outer = byId.get(meter.within);
    const fault = (message: string): ProcedureFault[] => [
      { path: `meters[${m}].within`, message: `The meter "${meter.id}" ${message}` },
    ];
    if (!outer) return fault(`runs within "${meter.within}", which is not on the meter list.`);
    if (outer.unit !== meter.unit)
      return fault(`counts ${meter.unit} and runs within "${outer.id}", which counts ${outer.unit}.`);
    const passed = new Set<string>();
    for (let at: string | undefined = meter.id; at !== undefined; at = byId.get(at)?.within) {
      if (passed.has(at)) return fault("runs within itself.");
      passed.add(at);
    }
    return [];
  });
}

/** What any step may name: materials, options, answers of earlier steps. */
function checkEvery(step: Step, i: number, known: Known, fault: Fault): void {
  for (const use of step.uses ?? [])
    if (!known.materials.has(use.item)) fault("uses", `uses "${use.item}", which is not on the material list.`);
  for (const condition of step.when ?? []) {
    const exists = "option" in condition ? known.options.has(condition.option) : isBefore(known, condition.step, i);
    const name = "option" in condition ? `option "${condition.option}"` : `earlier step "${condition.step}"`;
    if (!exists) fault("when", `depends on the ${name}, which does not exist.`);
  }
}

function checkKind(step: Step, i: number, known: Known, fault: Fault): void {
  switch (step.kind) {
    case "wait":
      checkWait(step, i, known, fault);
      break;
    case "measure":
      checkMeasure(step, known, fault);
      break;
    case "reset":
      if (!known.meters.has(step.meter))
        fault("meter", `resets the meter "${step.meter}", which is not on the meter list.`);
      break;
    case "mix":
      for (const item of mixedItems(step))
        if (item !== "water" && !known.materials.has(item))
          fault("recipe", `mixes "${item}", which is not on the material list.`);
      break;
    case "choose":
    case "decide": {
      const answers = (step.kind === "choose" ? step.schools : step.branches).map((one) => one.id);
      if (new Set(answers).size < answers.length) fault("", "offers the same answer twice.");
      break;
    }
    case "nested":
      if (step.procedure === known.procedure.id) fault("procedure", "holds the procedure it stands in.");
      break;
    case "turn":
    case "replace":
      checkPart(step, known, fault);
      break;
    case "repeat":
      checkRepeat(step, i, known, fault);
      break;
    default:
      break;
  }
}

function checkWait(step: StepOf<"wait">, i: number, { position }: Known, fault: Fault): void {
  if (step.maxMinutes !== undefined && step.maxMinutes < step.minMinutes)
    fault("maxMinutes", "has a maximum below its minimum.");
  for (const id of step.meanwhile ?? [])
    if ((position.get(id) ?? -1) <= i)
      fault("meanwhile", `names "${id}" as work for meanwhile, which is no later step.`);
}

function checkMeasure(step: StepOf<"measure">, { meters, procedure }: Known, fault: Fault): void {
  if (step.wears) checkWear(step, step.wears, { meters, procedure }, fault);
  if (step.points !== undefined && step.trials !== undefined)
    fault("trials", "has points and trials; it can have one of them.");
  if (step.meter !== undefined && !meters.has(step.meter))
    fault("meter", `reads the meter "${step.meter}", which is not on the meter list.`);
}

/** Its part, where it is, and what it wears by. */
function checkWear(
  step: StepOf<"measure">,
  { item, slots, per, worst }: WearReading,
  { meters, procedure }: Pick<Known, "meters" | "procedure">,
  fault: Fault,
): void {
  const part = procedure.parts.find((one) => one.item === item);
  if (!part) {
    fault("wears", `tells the wear of "${item}", which is not on the part list.`);
    return;
  }
  for (const slot of slots)
    if (!part.slots.some((one) => one.id === slot))
      fault("wears", `names the slot "${slot}", which "${part.item}" does not have.`);
  if (new Set(slots).size < slots.length) fault("wears", "names a slot twice.");
  if (worst === true && !step.points) fault("wears", "tells of the worst of its points, and has none.");
  if (step.points && worst !== true && step.points.length !== slots.length)
    fault("wears", `has ${step.points.length} points and ${slots.length} slots: each point tells the wear of one.`);
  if (per !== "day" && !meters.has(per)) fault("wears", `wears by the meter "${per}", which is not on the meter list.`);
}

function mixedItems({ recipe }: StepOf<"mix">): string[] {
  if (recipe.by === "dilution") return [recipe.stock];
  return recipe.by === "additive" ? [recipe.item] : recipe.parts.map((one) => one.item);
}

function checkPart(step: StepOf<"turn" | "replace">, { procedure }: Known, fault: Fault): void {
  const part = procedure.parts.find((one) => one.item === step.item);
  if (part === undefined) {
    fault("item", `replaces "${step.item}", which is not on the part list.`);
    return;
  }
  for (const slot of step.slots)
    if (!part.slots.some((one) => one.id === slot))
      fault("slots", `names the slot "${slot}", which "${part.item}" does not have.`);
  if (step.kind === "replace" && step.some && part.pair) fault("some", "renews some of a pair: a pair goes together.");
  if (part.pair && part.slots.some((slot) => !step.slots.includes(slot.id)))
    fault("slots", "replaces only one of a pair.");
}

function checkRepeat(step: StepOf<"repeat">, i: number, known: Known, fault: Fault): void {
  const { procedure, position } = known;
  if (!isBefore(known, step.from, i)) fault("from", `goes back to "${step.from}", which is no earlier step.`);
  else if (procedure.steps.slice(position.get(step.from), i).some((inner) => inner.kind === "repeat"))
    fault("from", "holds another repeat; blocks cannot be nested.");
}
