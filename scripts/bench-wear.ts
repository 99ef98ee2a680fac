/** Run by bench.mjs: 12,500 machines with four measured slots each, twenty values a slot, invented by the database itself. */
import { assessMachine } from "../app/duties/assess.server";
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { foreseeStale } from "../app/wear/foresee.server";
import { machineWear } from "../app/wear/machine-wear.server";
import { refitAll } from "../app/wear/refit.server";
import { listWear, wearCsv } from "../app/wear/wear-list.server";
import { migrate } from "../db/index";
import { ownSchema, print, report as timed } from "./lib/bench";

const MACHINES = Number(process.env.BENCH_MACHINES ?? 12_500);
const SITES = 1_000;
const VALUES = 20;
const SLOTS = [
  ["main-broom", "main-broom", "main-broom-bristle", 4, 2, 0.0125],
  ["side-left", "side-broom", "side-broom-bristle", 5, 2.5, 0.008],
  ["side-right", "side-broom", "side-broom-bristle", 5, 2.5, 0.008],
  ["squeegee", "squeegee-blade", "squeegee-edge", 6, 3, 0.011],
] as const;

process.stdout.write(
  `\nWear (${(MACHINES * SLOTS.length).toLocaleString("en")} slots of ${MACHINES.toLocaleString("en")} machines, ${VALUES} values each)\n`,
);
const db = await ownSchema("hound_wear");
const report = (name: string, work: () => Promise<unknown>): Promise<void> => timed(db, name, work, 40);
const id = (kind: number, number: string): string =>
  `LOWER(CONCAT('0000000${kind}-0000-7000-8000-', LPAD(HEX(${number}), 12, '0')))`;
const idOf = (kind: number, number: number): string =>
  `0000000${kind}-0000-7000-8000-${number.toString(16).padStart(12, "0")}`;
await load();

const now = new Date();
const all = { siteIds: null, family: null, now: false };
const at = performance.now();
const { lines, foreseen } = await refitAll(now);
print(
  "all fitted anew, and foreseen",
  `${((performance.now() - at) / 1000).toFixed(1)} s, ${lines.toLocaleString("en")} lines, ${foreseen.toLocaleString("en")} in use`,
);
await db.run("ANALYZE TABLE wear_lines, wear_values, machines");
let cursor: string | null = null;

await report("the firm's list", async () => `${(await listWear(all, null, now)).rows.length}`);
for (let page = 0; page < 100; page++) cursor = (await listWear(all, cursor, now)).next;

await report("the firm's list, page 100", async () => `${(await listWear(all, cursor, now)).rows.length}`);
await report("a site's", async () => `${(await listWear({ ...all, siteIds: [idOf(2, 43)] }, null, now)).rows.length}`);
await report(
  "a family's",
  async () => `${(await listWear({ ...all, family: "ride-on-sweeper" }, null, now)).rows.length}`,
);
await report("what pays to renew now", async () => `${(await listWear({ ...all, now: true }, null, now)).rows.length}`);
await report("a machine's", async () => `${(await machineWear({ id: idOf(3, 4321), options: [] }, now)).slots.length}`);
await report("a machine's facts changed: assessed, foreseen anew", async () => {
  await assessMachine(idOf(3, 4321), now);
  return `${await foreseeStale(now)} machine`;
});
await timed(db, "20,000 lines as CSV", async () => `${(await wearCsv(all, now)).length} bytes`, 3);
await db.close();

async function load(): Promise<void> {
  await migrate(db.sequelize);
  await publishProcedures(readProcedureFiles(shippedFolder()), new Date());
  await db.run("INSERT INTO customers (id, name) VALUES ('c', 'Customer')");
  await db.run(
    `INSERT INTO sites (id, customer_id, name, time_zone) SELECT ${id(2, "seq")}, 'c', CONCAT('Site ', seq), 'Europe/Lisbon' FROM seq_1_to_${SITES}`,
  );
  await db.run(
    `INSERT INTO machines (id, tag, site_id, name, family, options, created_at) SELECT ${id(3, "seq")}, CONCAT('B-', seq), ${id(2, `1 + seq MOD ${SITES}`)},
     CONCAT('Machine ', seq), 'ride-on-sweeper', '["side-brooms"]', NOW() FROM seq_1_to_${MACHINES}`,
  );
  await db.run(
    `INSERT INTO duties (id, machine_id, procedure_id, title, who, minutes, start_on, rules, active, due_on, site_id, family)
     SELECT ${id(4, "seq")}, ${id(3, "seq")}, 'ride-on-sweeper-daily', 'Walk-round', 'technician', 15, '2026-01-01',
       '{"triggers":[{"kind":"calendar","every":14,"unit":"day","basis":"completion"}]}', 1, DATE_ADD(CURDATE(), INTERVAL 1 + seq MOD 14 DAY), ${id(2, `1 + seq MOD ${SITES}`)}, 'ride-on-sweeper'
     FROM seq_1_to_${MACHINES}`,
  );
  await db.run(
    `INSERT INTO meter_readings (id, machine_id, meter, value, read_on, read_at, source) SELECT ${id(5, `m.seq * 100 + v.seq`)}, ${id(3, "m.seq")}, 'running-hours', 200 + m.seq MOD 900 + v.seq * (10 + m.seq MOD 9),
       DATE_SUB(CURDATE(), INTERVAL (${VALUES} - v.seq) * 7 DAY), DATE_SUB(NOW(3), INTERVAL (${VALUES} - v.seq) * 7 DAY), 'sheet' FROM seq_1_to_${MACHINES} m JOIN seq_1_to_${VALUES} v`,
  );
  for (const [i, [slot, item, reading, asNew, limit, loss]] of SLOTS.entries())
    await db.run(
      `INSERT INTO wear_values (entry_id, slot, machine_id, item, reading, unit, per, worse, limit_at, value, stage, confirmed, read_at, on_day, sheet_id)
       SELECT ${id(6, `m.seq * 100 + v.seq`)}, '${slot}', ${id(3, "m.seq")}, '${item}', '${reading}', 'in', 'running-hours', 'down', ${limit},
         ROUND(${asNew} - ${loss} * (0.5 + ((m.seq * 7 + ${i}) MOD 100) / 160) * v.seq * (10 + m.seq MOD 9) + (CAST(CRC32(CONCAT(m.seq, v.seq, '${slot}')) MOD 100 AS SIGNED) - 50) / 500, 2), 'found', 0,
         DATE_SUB(NOW(3), INTERVAL (${VALUES} - v.seq) * 7 DAY), DATE_SUB(CURDATE(), INTERVAL (${VALUES} - v.seq) * 7 DAY), ${id(7, `m.seq * 100 + v.seq`)}
       FROM seq_1_to_${MACHINES} m JOIN seq_1_to_${VALUES} v`,
    );
  await db.run("ANALYZE TABLE machines, duties, meter_readings, wear_values");
}
