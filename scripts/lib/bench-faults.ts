/** A register's faults, invented by the database, and how long what is learned of them takes to be told. */
import { causesFound, type DownBy, downRows, holdingUp } from "../../app/faults/down-time.server";
import { guideView, listGuides, machineFaults } from "../../app/faults/faults.server";
import { faultProcedure, publishShipped, shippedGuides } from "../../app/procedures/guides/guides.server";
import { learnedFaults } from "../../app/sheet/find/learned-faults.server";
import { must } from "../../core/must";
import type { Db } from "../../db/index";

const OUTCOMES_EACH = 40_000;
const DOWN = 20_000;

/**
 * @param families of the register's machines, in the order in which these have them
 * @param id how the register writes the id of the n-th row of a kind
 */
export async function benchFaults(
  db: Db,
  { families, machines, machine }: { families: readonly string[]; machines: number; machine: string },
  id: (kind: number, number: string) => string,
  report: (name: string, work: () => Promise<unknown>) => Promise<void>,
): Promise<void> {
  const now = new Date();
  await publishShipped(now);
  for (const [f, family] of families.entries()) {
    const guide = must(shippedGuides().find((one) => one.family === family));
    const pairs = guide.symptoms.flatMap((one) => one.causes.map(({ cause }) => [one.id, cause] as const));
    const elt = (of: 0 | 1): string =>
      `ELT(1 + seq MOD ${pairs.length}, ${pairs.map((one) => `'${one[of]}'`).join(",")})`;
    // The machines of a family are every so many-th.
    const number = `(1 + (seq * ${families.length} + ${f + families.length - 1}) MOD ${machines})`;
    await db.run(
      `INSERT INTO fault_outcomes (sheet_id, round, machine_id, site_id, family, symptom, cause, outcome, on_day, found_at, by_person)
       SELECT ${id(7, `seq * ${families.length} + ${f}`)}, 1, ${id(3, number)}, ${id(2, "1")}, '${family}', ${elt(0)}, ${elt(1)},
         ELT(1 + seq MOD 9, 'not-cured', 'handed-over', 'cured', 'cured', 'cured', 'cured', 'cured', 'cured', 'cured'),
         CURDATE() - INTERVAL seq MOD 700 DAY, NOW() - INTERVAL seq MOD 700 DAY, ${id(8, "1")} FROM seq_1_to_${OUTCOMES_EACH}`,
    );
  }
  await db.run(
    `INSERT INTO problem_reports (id, machine_id, name, text, stopped, logged_at, closed_at)
     SELECT ${id(9, "seq")}, ${id(3, `1 + seq * 7 MOD ${machines}`)}, 'Desk', 'Stopped', 1, NOW() - INTERVAL seq MOD 360 DAY,
       NOW() - INTERVAL seq MOD 360 DAY + INTERVAL 20 HOUR FROM seq_1_to_${DOWN}`,
  );
  await db.run("ANALYZE TABLE fault_outcomes, problem_reports");
  const row = must(await db.models.Machine.findByPk(machine, { raw: true }));
  const procedure = must(await db.transact((tx) => faultProcedure(row.family, now, tx)));
  const [from, to] = [-365, 0].map((days) => new Date(now.getTime() + days * 86_400_000).toISOString().slice(0, 10));
  const span = [must(from), must(to)] as const;
  const told = `${(OUTCOMES_EACH * families.length).toLocaleString("en")} faults found`;
  await report(`the guides of all families, ${told} (budget 150 ms)`, () => listGuides());
  await report("a family's guide with what was learned (budget 150 ms)", () => guideView(row.family));
  await report("what is wrong with a machine (budget 150 ms)", () => machineFaults(machine, null));
  await report("what a fault's sheet knows of its causes (budget 150 ms)", () => learnedFaults(procedure, row, ""));
  await report("how a machine holds up", () => holdingUp(machine, now));
  for (const by of ["site", "family", "machine"] satisfies DownBy[])
    await report(`how machines hold up by ${by}, a year of ${DOWN.toLocaleString("en")} reports`, () =>
      downRows(by, ...span, now),
    );
  await report("causes found in a year", () => causesFound(...span));
}
