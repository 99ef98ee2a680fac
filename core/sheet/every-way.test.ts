import type { SheetScript } from "../../db/demo/simulate-sheet";
import { foldRun } from "./fold-run";
import { lintProcedure } from "./lint-procedure";
import { locksOf } from "./locks";
import { missingSteps, sheetSteps } from "./next-steps";
import type { Procedure, Step } from "./procedure";
import { allShipped, whole } from "./testing/shipped";
import { workedSheet } from "./testing/worked";
import { unsafeWork } from "./unsafe-work";

/**
 * Every sheet that is written with states, worked to its end in every way that it has by itself: with and without each option,
 * each branch, each thing found bad, each reading out on either side, parts new and used up.
 */
const written = allShipped();
const sheets = written.filter((one) => one.formatVersion === 2).map((one) => whole(one, written));

interface Way {
  name: string;
  options: string[];
  script: SheetScript;
  usesLeft: number;
}

function optionSets({ options }: Procedure): string[][] {
  const ids = options.map((one) => one.id);
  return Array.from({ length: 2 ** ids.length }, (_, bits) => ids.filter((__, i) => bits & (1 << i)));
}

/** A value on each side of what is allowed, first found, then put right. */
function badReadings(step: Step): Record<string, number[]>[] {
  if (step.kind !== "measure" || !step.limits) return [];
  const { min, max, above, below } = step.limits;
  const points = step.points?.length ?? step.trials ?? 1;
  const { min: least = -Infinity, max: most = Infinity } = step.possible ?? {};
  const lowest = min ?? above ?? NaN;
  const highest = max ?? below ?? NaN;
  // As far out as it can be at all: between the limit and that where the limit is near it.
  const low = lowest - 1 < least ? (lowest + least) / 2 : lowest - 1;
  const high = highest + 1 > most ? (highest + most) / 2 : highest + 1;
  return [low, high]
    .filter((value) => Number.isFinite(value) && (value < lowest || value > highest))
    .map((value) => ({ [step.reading]: Array.from({ length: points }, () => value) }));
}

function waysOf(procedure: Procedure): Way[] {
  return optionSets(procedure).flatMap((options): Way[] => {
    const way = (name: string, script: SheetScript, usesLeft = 2): Way => ({
      name: `${name}, with ${options.join(" and ") || "nothing fitted"}`,
      options,
      script,
      usesLeft,
    });
    const inspected = procedure.steps.flatMap((step) => (step.kind === "inspect" ? [step.id] : []));
    const asked = procedure.steps.flatMap((step): [string, string][] =>
      step.kind === "decide"
        ? step.branches.map((branch) => [step.id, branch.id])
        : step.kind === "choose"
          ? step.schools.map((school) => [step.id, school.id])
          : [],
    );
    return [
      way("all in order", {}),
      way("all found bad", { notOk: inspected }),
      way("every part at its last use", {}, 0),
      ...inspected.map((id) => way(`${id} found bad`, { notOk: [id] })),
      ...asked.map(([id, answer]) => way(`${id}: ${answer}`, { answers: { [id]: answer } })),
      ...asked.map(([id, answer]) =>
        way(`${id}: ${answer}, all found bad`, { notOk: inspected, answers: { [id]: answer } }),
      ),
      ...procedure.steps.flatMap((step) =>
        badReadings(step).map((readings) => way(`${step.id} out of its limits`, { readings })),
      ),
      way("three passes", { rounds: 3 }),
    ];
  });
}

/** What is not as it must be at the end of a sheet that was worked so. */
function faultsOf(procedure: Procedure, { options, script, usesLeft }: Way): string[] {
  const events = workedSheet(procedure, { options, script, usesLeft });
  const state = foldRun(procedure, events);
  const kept = new Set(procedure.leaves?.states ?? []);
  const left = new Set(procedure.leaves?.off ?? []);
  return [
    ...missingSteps(procedure, state, { options }).map((one) => `not done: ${one.title}`),
    ...state.ledger.filter((one) => !left.has(one.item)).map((one) => `left off: ${one.item}`),
    ...locksOf(procedure, state)
      .on.filter((one) => !kept.has(one.state))
      .map((one) => `still locked: ${one.state}`),
    ...unsafeWork(procedure, events, { options }).map((one) => one.because),
    ...(sheetSteps(procedure, state, { options }).length === 0 ? ["no steps"] : []),
  ];
}

it.each(sheets.map((one) => [one.id, one] as const))("%s is whole in every way it is worked", (_, procedure) => {
  const ways = waysOf(procedure);
  expect(ways.length).toBeGreaterThan(2);
  const faults = ways.flatMap((way) => faultsOf(procedure, way).map((fault) => `${way.name}: ${fault}`));
  expect(faults.slice(0, 10)).toEqual([]);
});

it.each(sheets.map((one) => [one.id, one] as const))(
  "%s has nothing that the linter would have otherwise",
  (_, procedure) => {
    expect(lintProcedure(procedure)).toEqual([]);
  },
);

it("tells a sheet that leaves something off, and one that ends locked", () => {
  const procedure = sheets.find((one) => one.id === "recirculating-chiller-strainer") as Procedure;
  const without = (keep: (step: Step) => boolean): Procedure => ({ ...procedure, steps: procedure.steps.filter(keep) });
  const way = { name: "", options: ["central"], script: {}, usesLeft: 1 };
  expect(
    faultsOf(
      without((step) => !(step.putsBack ?? []).some((one) => one.item === "gasket")),
      way,
    ),
  ).toContain("left off: gasket");
  expect(
    faultsOf(
      without((step) => !(step.kind === "safety" && step.gate?.state === "stopped" && step.gate.way === "out")),
      way,
    ),
  ).toContain("still locked: stopped");
});
