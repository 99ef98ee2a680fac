/** Run by bench.mjs: a register of 5,000 sites, 50,000 machines and 300,000 duties, invented by the database itself. */
import { getMachineNames } from "~/duties/machine-names.server";

import { aheadPage } from "../app/ahead/ahead.server";
import { assessAll, assessMachine } from "../app/duties/assess.server";
import { getDuty, listDue, listMachineDuties } from "../app/duties/due.server";
import { unreadMeters } from "../app/duties/unread-meters.server";
import { getMachine, listMachines, listMachinesWithNext } from "../app/machines/machines.server";
import { expectations } from "../app/machines/meters.server";
import { getSite } from "../app/machines/sites/sites.server";
import { machineTrail } from "../app/machines/trail.server";
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { findAnything } from "../app/shell/find.server";
import { must } from "../core/must";
import { migrate } from "../db/index";
import { ownSchema, print, report as timed } from "./lib/bench";
import { benchFaults } from "./lib/bench-faults";

const SITES = 5_000;
const MACHINES = 50_000;
const DUTIES_EACH = 6;
const READINGS_EACH = 12;

process.stdout.write(
  `\nRegister (${SITES.toLocaleString("en")} sites, ${MACHINES.toLocaleString("en")} machines, ${(MACHINES * DUTIES_EACH).toLocaleString("en")} duties)\n`,
);

const db = await ownSchema("hound_register");
const report = (name: string, work: () => Promise<unknown>): Promise<void> => timed(db, name, work);
await migrate(db.sequelize);
const now = new Date();
await publishProcedures(readProcedureFiles(shippedFolder()), now);

const id = (kind: number, number: string): string =>
  `CONCAT('0000000${kind}-0000-7000-8000-', LPAD(HEX(${number}), 12, '0'))`;
const RULES = [
  [{ kind: "calendar", every: 1, unit: "week", basis: "completion" }],
  [{ kind: "calendar", every: 1, unit: "month", basis: "grid" }],
  [
    { kind: "calendar", every: 1, unit: "year", basis: "completion" },
    { kind: "meter", meter: "running-hours", every: 500, basis: "completion" },
  ],
  [{ kind: "calendar", every: 3, unit: "month", basis: "completion" }],
  [
    { kind: "event", event: "after-run" },
    { kind: "calendar", every: 6, unit: "month", basis: "grid" },
  ],
  [
    { kind: "condition", reading: "gap", above: 2 },
    { kind: "calendar", every: 2, unit: "year", basis: "completion" },
  ],
];
const FAMILIES = ["flake-ice-maker", "slide-stainer", "wide-format-printer", "ride-on-sweeper", "cnc-lathe"];
const PROCEDURES = [
  "slide-stainer-weekly",
  "ride-on-sweeper-daily",
  "wide-format-printer-periodic",
  "own-duty",
  "slide-stainer-chambers",
  "flake-ice-maker-clean-sanitise",
];
const started = performance.now();
await db.run(`INSERT INTO customers (id, name) SELECT ${id(1, "seq")}, CONCAT('Customer ', seq) FROM seq_1_to_500`);
await db.run(
  `INSERT INTO sites (id, customer_id, name, time_zone, access_hours) SELECT ${id(2, "seq")}, ${id(1, "1 + seq MOD 500")}, CONCAT('Site ', seq), 'Europe/Lisbon', 'Mon-Fri 07:00-15:00; Sat, Sun closed'
   FROM seq_1_to_${SITES}`,
);
await db.run(
  `INSERT INTO machines (id, tag, site_id, name, family, serial, options, created_at) SELECT ${id(3, "seq")}, CONCAT('B-', seq), ${id(2, `1 + seq MOD ${SITES}`)},
     CONCAT('Machine ', seq), ELT(1 + seq MOD 5, ${FAMILIES.map((family) => `'${family}'`).join(",")}), CONCAT('S', seq * 7), '[]', NOW() FROM seq_1_to_${MACHINES}`,
);
for (const [n, rules] of RULES.entries()) {
  await db.run(
    `INSERT INTO duties (id, machine_id, site_id, family, procedure_id, title, who, minutes, start_on, rules, assessed_at)
     SELECT ${id(4, `seq * ${DUTIES_EACH} + ${n}`)}, ${id(3, "seq")}, ${id(2, `1 + seq MOD ${SITES}`)}, ELT(1 + seq MOD 5, ${FAMILIES.map((family) => `'${family}'`).join(",")}), '${must(PROCEDURES[n])}', 'Duty ${n}', 'technician', ${20 + n * 10},
       CURDATE() - INTERVAL (30 + seq MOD 300) DAY, '${JSON.stringify({ triggers: rules })}', NOW() FROM seq_1_to_${MACHINES}`,
  );
  await db.run(
    `INSERT INTO completions (id, duty_id, machine_id, done_on, meters) SELECT ${id(5, `seq * ${DUTIES_EACH} + ${n}`)}, ${id(4, `seq * ${DUTIES_EACH} + ${n}`)}, ${id(3, "seq")},
       CURDATE() - INTERVAL (seq * ${n + 3}) MOD ${must([7, 30, 360, 90, 180, 700][n])} DAY, '{}' FROM seq_1_to_${MACHINES}`,
  );
}
await db.run(
  `INSERT INTO meter_readings (id, machine_id, meter, value, read_on, read_at, source) SELECT ${id(6, `m.seq * ${READINGS_EACH} + r.seq`)}, ${id(3, "m.seq")}, 'running-hours',
     r.seq * (20 + m.seq MOD 60), CURDATE() - INTERVAL (${READINGS_EACH} - r.seq) * 8 DAY, NOW() - INTERVAL (${READINGS_EACH} - r.seq) * 8 DAY, 'gateway'
   FROM seq_1_to_${MACHINES} m JOIN seq_1_to_${READINGS_EACH} r`,
);
await db.run("ANALYZE TABLE plans, machines, sites, completions, meter_readings");
print("load it", `${((performance.now() - started) / 1000).toFixed(1)} s`);

const assessing = performance.now();
const { duties, changed } = await assessAll(now);
const seconds = (performance.now() - assessing) / 1000;
print(
  `assess all ${duties.toLocaleString("en")} duties, ${changed.toLocaleString("en")} changed (budget 60 s)`,
  `${seconds.toFixed(1)} s, ${Math.round(duties / seconds).toLocaleString("en")} duties/s`,
);
const again = performance.now();
await assessAll(now);
print("assess them again, nothing changed", `${((performance.now() - again) / 1000).toFixed(1)} s`);

const ALL = { q: null, siteId: null, family: null, who: null, personId: null, after: null };
const machine = "00000003-0000-7000-8000-000000001F40";
const [{ siteId }] = (await db.select<{ siteId: string }>(
  "SELECT site_id AS siteId FROM machines WHERE id = :machine",
  { machine },
)) as [{ siteId: string }];
const [{ dutyId }] = (await db.select<{ dutyId: string }>(
  "SELECT id AS dutyId FROM duties WHERE machine_id = :machine LIMIT 1",
  { machine },
)) as [{ dutyId: string }];
await report("Ahead, first page (12 sites, 720 duties)", () => aheadPage(ALL, now));
let deep: string | null = null;
for (let page = 0; page < 100; page++) deep = (await aheadPage({ ...ALL, after: deep }, now)).next;
await report("Ahead, page 100", () => aheadPage({ ...ALL, after: deep }, now));
await report("Ahead, one customer", () => aheadPage({ ...ALL, q: "Customer 12" }, now));
await report("Ahead, one family", () => aheadPage({ ...ALL, family: "cnc-lathe" }, now));
await report("Ahead, one site", () => aheadPage({ ...ALL, siteId }, now));
await report("the round, first 50", () => listDue({}, now));
await report("the round of one site", () => listDue({ siteId }, now));
await report("meters that wait to be read, all", () => unreadMeters(now.toISOString().slice(0, 10)));
await report("meters that wait to be read, of one machine", () =>
  unreadMeters(now.toISOString().slice(0, 10), machine),
);
await report("search a machine by its name", () => listMachines({ q: "Machine 4321" }));
await report("search a tag", () => listMachines({ q: "B-4321" }));
await report("find anything", () => findAnything("Site 43", "lead"));
await report("find a duty by its title", () => findAnything("Duty", "lead"));
await report("find a duty of a machine", () => findAnything("B-4321 duty", "lead"));
await report("the machines of a page, with what comes next", () => listMachinesWithNext({}, now));
await report("a site's page", () => getSite(siteId, now));
await report("a machine's page, all of it", async () => {
  const view = await getMachine(machine);
  const names = await getMachineNames(machine);
  await listMachineDuties(machine, now);
  await expectations(
    machine,
    names.meters.map((meter) => meter.id),
    now,
  );
  return view;
});
await report("a duty with its reasons", () => getDuty(dutyId, now));
await report("a machine's trail", () => machineTrail(machine));
await report("an event: assess its machine's plans", () => assessMachine(machine, now));
await benchFaults(db, { families: FAMILIES, machines: MACHINES, machine }, id, report);
await db.close();
