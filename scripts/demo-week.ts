/**
 * What packing saves on the demo firm's coming week: every duty that a technician owes by its end, each site visited once on
 * a day on which it lets people in, packed against one machine after another. Reads only. `DATABASE_URL` names the database.
 */
import { firmDay } from "../app/kit/days/firm-day.server";
import { buildDay } from "../app/round/day/day-problem.server";
import { addDays, allPhases, packVisit, visitJobs } from "../core/index";
import { must } from "../core/must";
import { getDb } from "../db/index";

const db = getDb();
const { on: today } = await firmDay(new Date());
const until = addDays(today, 6);
const [person] = await db.select<{ id: string }>(
  "SELECT id FROM persons WHERE role = 'technician' AND active = 1 ORDER BY name LIMIT 1",
);
const due = await db.select<{ id: string }>(
  "SELECT id FROM duties WHERE active = 1 AND who <> 'operator' AND due_on <= :until ORDER BY id LIMIT 2000",
  {
    until,
  },
);
const day = {
  personId: must(person).id,
  onDay: today,
  startMinute: 420,
  endMinute: 960,
  technicians: 1,
  fixedOrder: null,
};
const { problem, sites } = await buildDay(
  day,
  [],
  null,
  due.map((row) => row.id),
);
let packedAll = 0;
let oneByOneAll = 0;
process.stdout.write(
  `Week from ${today}: ${due.length} duties\n${"".padEnd(30)}${"duties".padStart(8)}${"hands-on".padStart(11)}${"packed".padStart(9)}${"one by one".padStart(12)}${"saved".padStart(8)}  proof\n`,
);
for (const site of problem.sites) {
  const visit = {
    technicians: 1,
    resources: site.resources,
    jobs: site.jobs.flatMap((job) => visitJobs({ id: job.id }, job)),
  };
  const packed = packVisit(visit, { timeLimitMs: 5000 });
  const minutes = (kind?: string): number =>
    site.jobs.reduce(
      (sum, job) =>
        sum + allPhases(job).reduce((inner, phase) => (kind && phase.kind !== kind ? inner : inner + phase.minutes), 0),
      0,
    );
  packedAll += packed.makespan;
  oneByOneAll += minutes();
  line(must(sites.find((one) => one.id === site.id)).name, packed.status, [
    site.jobs.length,
    minutes("hands"),
    packed.makespan,
    minutes(),
  ]);
}
line("All sites", "", [problem.sites.reduce((sum, site) => sum + site.jobs.length, 0), NaN, packedAll, oneByOneAll]);
await db.close();

function line(
  name: string,
  status: string,
  [jobs, hands, packed, oneByOne]: readonly [number, number, number, number],
): void {
  const saved = `${((100 * (oneByOne - packed)) / oneByOne).toFixed(1)} %`;
  process.stdout.write(
    `${name.slice(0, 29).padEnd(30)}${String(jobs).padStart(8)}${(Number.isNaN(hands) ? "" : String(hands)).padStart(11)}${String(packed).padStart(9)}${String(oneByOne).padStart(12)}${saved.padStart(8)}  ${status}\n`,
  );
}
