/**
 * Prints, for every shipped procedure with each of its options and without, what its steps come to in hands and waits, and how
 * long it takes packed by itself (soaks, drying and the bench beside the machine), beside the typical time that it states.
 */
import { readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { expandNested, packVisit, placeGates, type Procedure, procedurePhases, visitJobs } from "../core/index";

const all = readProcedureFiles(shippedFolder());
const print = (...cells: (string | number)[]): void =>
  void process.stdout.write(
    `${cells.map((cell, i) => (i === 0 ? String(cell).padEnd(62) : String(cell).padStart(12))).join("")}\n`,
  );
const rounded = (minutes: number): number => Math.round(minutes * 10) / 10;

/** One of each at a site. */
const shared = [...new Set(all.flatMap((one) => one.steps.flatMap(({ needs = [] }) => needs)))];

print("minutes", "stated", "hands", "waits", "in turn", "packed");
for (const written of all) {
  const procedure = placeGates(
    expandNested(written, (id, version) => all.find((one) => one.id === id && one.version === version)),
  );
  const { handsOn, waiting } = procedure.minutes;
  for (const options of waysFitted(procedure)) {
    // By the steps themselves, not stretched to the figure that is stated.
    const phases = procedurePhases(procedure, { options }, sumOfSteps(procedure, options));
    const { makespan } = packVisit(
      {
        technicians: 1,
        jobs: visitJobs({ id: "alone" }, phases),
        resources: shared.map((id) => ({ id, capacity: 1 })),
      },
      { timeLimitMs: 2000 },
    );
    print(
      `${procedure.id}${options.length > 0 ? `, ${options.join(", ")}` : ""}`,
      `${handsOn} + ${waiting}`,
      rounded(phases.handsOn),
      rounded(phases.waiting),
      rounded(phases.handsOn + phases.waiting),
      rounded(makespan),
    );
  }
}

function waysFitted({ options }: Procedure): string[][] {
  const ids = options.map((one) => one.id);
  return ids.length === 0 ? [[]] : [[], ...ids.map((id) => [id]), ...(ids.length > 1 ? [ids] : [])];
}

/** Hands-on minutes as the steps say them. */
function sumOfSteps(procedure: Procedure, options: string[]): number {
  const stretched = procedurePhases(procedure, { options }, 1000);
  const shown = new Set([...stretched.steps, ...stretched.bench.flatMap((one) => one.steps)].flat());
  return procedure.steps.reduce((sum, step) => sum + (shown.has(step.id) ? (step.minutes ?? 0) : 0), 0);
}
