/** Run by bench.mjs: 50,000 items at 5 places with a million lines in the ledger, invented by the database itself. */
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { costs } from "../app/stores/costs/costs.server";
import { itemMeant, listItems } from "../app/stores/items/catalogue.server";
import { refreshOutlook } from "../app/stores/items/outlook.server";
import { itemView, storesHome } from "../app/stores/items/overview.server";
import { spanNeeds } from "../app/stores/items/span-needs.server";
import { postMoves, verifyStock } from "../app/stores/ledger/ledger.server";
import { listPlaces, stockAt } from "../app/stores/ledger/places.server";
import { listOrders } from "../app/stores/orders/orders.server";
import { must } from "../core/must";
import { migrate } from "../db/index";
import { ownSchema, print, quantile } from "./lib/bench";

const ITEMS = 50_000;
const PLACES = 5;
const MOVES = 1_000_000;
const MACHINES = 500;
const TIMES = 60;

process.stdout.write(
  `\nStores (${ITEMS.toLocaleString("en")} items, ${PLACES} places, ${MOVES.toLocaleString("en")} lines in the ledger)\n`,
);

const db = await ownSchema("hound_stores");
await migrate(db.sequelize);
const now = new Date();
await publishProcedures(readProcedureFiles(shippedFolder()), now);

const id = (kind: number, number: string): string =>
  `CONCAT('0000000${kind}-0000-7000-8000-', LPAD(HEX(${number}), 12, '0'))`;
const started = performance.now();
await db.run(
  `INSERT INTO persons (id, name, sign_in, password_hash, role, active, must_change_password, demo, created_at) SELECT ${id(9, "seq")}, CONCAT('Person ', seq), CONCAT('p', seq), 'x', 'lead', 1, 0, 0, NOW() FROM seq_1_to_4`,
);
await db.run(`INSERT INTO customers (id, name) VALUES (${id(1, "1")}, 'Customer')`);
await db.run(
  `INSERT INTO sites (id, customer_id, name, time_zone) SELECT ${id(2, "seq")}, ${id(1, "1")}, CONCAT('Site ', seq), 'Europe/Lisbon' FROM seq_1_to_50`,
);
await db.run(
  `INSERT INTO machines (id, tag, site_id, name, family, options, created_at) SELECT ${id(3, "seq")}, CONCAT('B-', seq), ${id(2, "1 + seq MOD 50")}, CONCAT('Machine ', seq), 'flake-ice-maker', '[]', NOW()
   FROM seq_1_to_${MACHINES}`,
);
await db.run(
  `INSERT INTO duties (id, machine_id, site_id, family, procedure_id, title, who, minutes, start_on, rules, due_on, assessed_at)
   SELECT ${id(4, "seq")}, ${id(3, "seq")}, ${id(2, "1 + seq MOD 50")}, 'flake-ice-maker', ELT(1 + seq MOD 4, 'flake-ice-maker-clean-sanitise', 'slide-stainer-weekly', 'card-printer-ribbon', 'soft-serve-freezer-14-day'),
     'Duty', 'technician', 30, CURDATE() - INTERVAL 100 DAY, '[]', CURDATE() + INTERVAL (seq MOD 60) DAY, NOW() FROM seq_1_to_${MACHINES}`,
);
await db.run(
  `UPDATE duties SET rules = '{"triggers":[{"kind":"calendar","every":2,"unit":"week","basis":"completion"}]}'`,
);
await db.run(`INSERT INTO suppliers (id, name, code) VALUES (${id(5, "1")}, 'Trade', 'T')`);
await db.run(
  `INSERT INTO items (id, name, kind, unit, pack_size, pack_price_cents, supplier_id, order_code, scan_code)
   SELECT CONCAT('item-', seq), CONCAT(ELT(1 + seq MOD 6, 'Filter', 'Gasket', 'Bearing', 'Cleaner', 'Broom', 'Seal'), ' number ', seq), 'part', 'pc', 1, 100 + seq MOD 9000, ${id(5, "1")},
     CONCAT('C', seq), CONCAT('S', seq) FROM seq_1_to_${ITEMS}`,
);
await db.run(
  `INSERT INTO places (id, kind, name, person_id) SELECT ${id(6, "seq")}, IF(seq = 1, 'depot', 'van'), CONCAT('Place ', seq), IF(seq = 1, NULL, ${id(9, "seq - 1")}) FROM seq_1_to_${PLACES}`,
);
const CHUNK = 100_000;
for (let from = 1; from <= MOVES; from += CHUNK) {
  await db.run(
    `INSERT INTO stock_moves (id, item_id, place_id, kind, qty, cost_cents, at, on_day, by_person, machine_id)
     SELECT ${id(7, "seq")}, CONCAT('item-', 1 + seq MOD ${ITEMS}), ${id(6, `1 + (seq DIV ${ITEMS}) MOD ${PLACES}`)}, IF(seq MOD 4 = 0, 'receive', 'use'), IF(seq MOD 4 = 0, 5, -1),
       IF(seq MOD 4 = 0, NULL, 250), NOW() - INTERVAL (seq MOD 730) DAY, CURDATE() - INTERVAL (seq MOD 730) DAY, ${id(9, "1 + seq MOD 4")}, IF(seq MOD 4 = 0, NULL, ${id(3, `1 + seq MOD ${MACHINES}`)})
     FROM seq_${from}_to_${Math.min(MOVES, from + CHUNK - 1)}`,
  );
}
await db.run(
  "INSERT INTO stock (item_id, place_id, on_hand, count_asked) SELECT item_id, place_id, SUM(qty), SUM(qty) < -10 FROM stock_moves GROUP BY item_id, place_id",
);
await db.run(
  "INSERT INTO cost_months (month, machine_id, cents) SELECT LEFT(on_day, 7), machine_id, SUM(cost_cents) FROM stock_moves WHERE kind = 'use' AND machine_id IS NOT NULL GROUP BY 1, 2",
);
// A busy item: as many lines as a small firm has in all.
const [{ busy }] = (await db.select<{ busy: string }>("SELECT 'ice-cleaner' AS busy")) as [{ busy: string }];
await db.run(
  `INSERT INTO stock_moves (id, item_id, place_id, kind, qty, at, on_day, by_person) SELECT ${id(8, "seq")}, '${busy}', ${id(6, `1 + seq MOD ${PLACES}`)}, 'receive', 1, NOW(), CURDATE(), ${id(9, "1")} FROM seq_1_to_20000`,
);
await db.run(
  `INSERT INTO stock (item_id, place_id, on_hand) SELECT item_id, place_id, SUM(qty) FROM stock_moves WHERE item_id = '${busy}' GROUP BY item_id, place_id`,
);
await db.run("ANALYZE TABLE stock_moves, stock, items, stock_outlook");
print("Filling the tables", `${Math.round((performance.now() - started) / 1000)} s`);

const places = await listPlaces();
async function time(name: string, work: (n: number) => Promise<unknown>, times = TIMES): Promise<void> {
  await work(0);
  db.takeQueryCount();
  const all: number[] = [];
  for (let n = 1; n <= times; n++) {
    const at = performance.now();
    await work(n);
    all.push(performance.now() - at);
  }
  const queries = db.takeQueryCount() / times;
  print(
    name,
    `p50 ${quantile(all, 0.5).toFixed(1)} ms, p95 ${quantile(all, 0.95).toFixed(1)} ms, ${queries.toFixed(1)} queries`,
  );
}

const at = performance.now();
const rows = await refreshOutlook(now);
print("Looking ahead for everything", `${Math.round(performance.now() - at)} ms, ${rows} rows`);
await time("Stores, what is to be done", () => storesHome(now));
await time("Items, first page", () => listItems({ q: null, after: null }));
await time("Items, a page in the middle", (n) =>
  listItems({ q: null, after: `Filter number ${n * 100}\u001fitem-${n * 100}` }),
);
await time("Items, by words", (n) => listItems({ q: `gasket ${1000 + n * 37}`, after: null }));
await time("An item scanned", (n) => itemMeant(`S${1 + n * 700}`));
await time("An item with its ledger", (n) => itemView(`item-${1 + n * 321}`, null, now));
await time("The busiest item with its ledger", () => itemView(busy, null, now));
await time("A place, first page", (n) => stockAt(must(places[n % PLACES]).id, { after: null }));
await time("A place, a page in the middle", (n) => stockAt(must(places[n % PLACES]).id, { after: `item-${n * 500}` }));
await time("A place, what asks for a count", (n) =>
  stockAt(must(places[n % PLACES]).id, { after: null, counts: true }),
);
await time("Orders", () => listOrders(null));
await time("What thirty days take", () => spanNeeds({ days: 30, dutyIds: null }, now), 20);
await time("Looking ahead for one item", () => refreshOutlook(now, [busy]), 20);
await time("Booking a use", (n) =>
  db.transact((tx) =>
    postMoves(
      [
        {
          itemId: `item-${1 + n}`,
          placeId: must(places[n % PLACES]).id,
          lotId: null,
          kind: "use",
          qty: -1,
          at: now,
          onDay: now.toISOString().slice(0, 10),
          by: "00000009-0000-7000-8000-000000000001",
        },
      ],
      tx,
    ),
  ),
);
const year = now.getUTCFullYear();
await time("Costs of a year by machine", () => costs("machine", `${year - 1}-01-01`, `${year - 1}-12-31`), 10);
await time("Costs of a span between two months", () => costs("machine", `${year - 1}-02-11`, `${year}-04-19`), 20);
const verifying = performance.now();
const differences = await verifyStock();
print(
  "Summing the whole ledger anew (npm run verify-stock)",
  `${((performance.now() - verifying) / 1000).toFixed(1)} s, ${differences.length} differences`,
);
await db.close();
