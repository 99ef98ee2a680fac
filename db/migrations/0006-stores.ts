import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** Catalogue keys are the items of procedures: plain words in ASCII. */
const ITEM = "VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin";
/** Thousandths of the item's unit, up to a hundred million of it. */
const QTY = "DECIMAL(14,3)";

/** Items, places, lots, an append-only ledger with its running sums, reservations, kits and orders. */
const TABLES = [
  `CREATE TABLE suppliers (
    id ${UUID} NOT NULL PRIMARY KEY,
    name VARCHAR(160) NOT NULL,
    code VARCHAR(40) NOT NULL DEFAULT '',
    email VARCHAR(160) NOT NULL DEFAULT '',
    lead_days SMALLINT UNSIGNED NOT NULL DEFAULT 7,
    active BOOLEAN NOT NULL DEFAULT TRUE
  )`,
  // Quantities are kept in unit; what is sold is a pack of them. Prices are minor units of the firm's currency, for a pack.
  `CREATE TABLE items (
    id ${ITEM} NOT NULL PRIMARY KEY,
    name VARCHAR(160) NOT NULL,
    kind ENUM('part','consumable','chemical','tool','protective') NOT NULL,
    unit VARCHAR(16) NOT NULL,
    pack_size ${QTY} NOT NULL DEFAULT 1,
    pack_name VARCHAR(60) NOT NULL DEFAULT '',
    uses_per_piece SMALLINT UNSIGNED NOT NULL DEFAULT 1,
    shelf_life_days SMALLINT UNSIGNED NULL,
    hazards JSON NOT NULL DEFAULT '[]',
    storage VARCHAR(300) NOT NULL DEFAULT '',
    alternatives JSON NOT NULL DEFAULT '[]',
    pack_price_cents INT UNSIGNED NULL,
    supplier_id ${UUID} NULL,
    order_code VARCHAR(60) NOT NULL DEFAULT '',
    lead_days SMALLINT UNSIGNED NULL,
    needs_serial BOOLEAN NOT NULL DEFAULT FALSE,
    scan_code VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
    active BOOLEAN NOT NULL DEFAULT TRUE,
    UNIQUE KEY items_scan (scan_code),
    KEY items_name (active, name, id),
    KEY items_supplier (supplier_id, order_code),
    FULLTEXT KEY items_words (name, order_code),
    CONSTRAINT items_supplier_fk FOREIGN KEY (supplier_id) REFERENCES suppliers (id)
  )`,
  `CREATE TABLE places (
    id ${UUID} NOT NULL PRIMARY KEY,
    kind ENUM('van','depot','shelf') NOT NULL,
    name VARCHAR(160) NOT NULL,
    person_id ${UUID} NULL,
    site_id ${UUID} NULL,
    active BOOLEAN NOT NULL DEFAULT TRUE,
    UNIQUE KEY places_name (name),
    KEY places_person (person_id),
    KEY places_site (site_id),
    CONSTRAINT places_person_fk FOREIGN KEY (person_id) REFERENCES persons (id),
    CONSTRAINT places_site_fk FOREIGN KEY (site_id) REFERENCES sites (id)
  )`,
  `CREATE TABLE lots (
    id ${UUID} NOT NULL PRIMARY KEY,
    item_id ${ITEM} NOT NULL,
    lot VARCHAR(60) NOT NULL,
    expires_on DATE NULL,
    UNIQUE KEY lots_lot (item_id, lot),
    CONSTRAINT lots_item_fk FOREIGN KEY (item_id) REFERENCES items (id)
  )`,
  // Only ever inserted. The sum of qty *is* the stock.
  `CREATE TABLE stock_moves (
    seq BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    id ${UUID} NOT NULL,
    item_id ${ITEM} NOT NULL,
    place_id ${UUID} NOT NULL,
    lot_id ${UUID} NULL,
    kind ENUM('opening','receive','move','use','scrap','count') NOT NULL,
    qty ${QTY} NOT NULL,
    cost_cents DECIMAL(14,4) NULL,
    at DATETIME(3) NOT NULL,
    on_day DATE NOT NULL,
    by_person ${UUID} NOT NULL,
    run_id ${UUID} NULL,
    event_id ${UUID} NULL,
    machine_id ${UUID} NULL,
    order_line_id ${UUID} NULL,
    pair_id ${UUID} NULL,
    note VARCHAR(300) NOT NULL DEFAULT '',
    counted ${QTY} NULL,
    UNIQUE KEY stock_moves_id (id),
    KEY stock_moves_item (item_id, place_id, seq),
    KEY stock_moves_place (place_id, seq),
    KEY stock_moves_run (run_id, item_id),
    KEY stock_moves_cost (kind, on_day, machine_id, cost_cents),
    CONSTRAINT stock_moves_item_fk FOREIGN KEY (item_id) REFERENCES items (id),
    CONSTRAINT stock_moves_place_fk FOREIGN KEY (place_id) REFERENCES places (id)
  )`,
  // Running sums of the ledger, kept in the transaction that adds to it; npm run verify-stock sums the ledger anew.
  `CREATE TABLE stock (
    item_id ${ITEM} NOT NULL,
    place_id ${UUID} NOT NULL,
    on_hand ${QTY} NOT NULL DEFAULT 0,
    reserved ${QTY} NOT NULL DEFAULT 0,
    count_asked BOOLEAN NOT NULL DEFAULT FALSE,
    counted_at DATETIME(3) NULL,
    full_qty ${QTY} NULL,
    PRIMARY KEY (item_id, place_id),
    KEY stock_place (place_id, item_id),
    KEY stock_count (count_asked, place_id, item_id),
    CONSTRAINT stock_item_fk FOREIGN KEY (item_id) REFERENCES items (id),
    CONSTRAINT stock_place_fk FOREIGN KEY (place_id) REFERENCES places (id)
  )`,
  // What machines' uses cost in each month, kept like the other sums: a report over years reads months, not movements.
  `CREATE TABLE cost_months (
    month CHAR(7) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    machine_id ${UUID} NOT NULL,
    cents DECIMAL(16,4) NOT NULL DEFAULT 0,
    PRIMARY KEY (month, machine_id)
  )`,
  `CREATE TABLE stock_lots (
    item_id ${ITEM} NOT NULL,
    place_id ${UUID} NOT NULL,
    lot_id ${UUID} NOT NULL,
    qty ${QTY} NOT NULL DEFAULT 0,
    PRIMARY KEY (item_id, place_id, lot_id),
    KEY stock_lots_lot (lot_id),
    CONSTRAINT stock_lots_lot_fk FOREIGN KEY (lot_id) REFERENCES lots (id)
  )`,
  `CREATE TABLE reservations (
    id ${UUID} NOT NULL PRIMARY KEY,
    item_id ${ITEM} NOT NULL,
    place_id ${UUID} NOT NULL,
    qty ${QTY} NOT NULL,
    person_id ${UUID} NOT NULL,
    on_day DATE NOT NULL,
    plan_id ${UUID} NULL,
    made_at DATETIME(3) NOT NULL,
    ended_at DATETIME(3) NULL,
    ended_why ENUM('used','released') NULL,
    KEY reservations_stock (item_id, place_id, ended_at),
    KEY reservations_day (person_id, on_day, ended_at),
    KEY reservations_plan (plan_id, ended_at),
    CONSTRAINT reservations_stock_fk FOREIGN KEY (item_id, place_id) REFERENCES stock (item_id, place_id)
  )`,
  // When an item runs out: for the firm as a whole (place '') and at each place, as worked out last.
  `CREATE TABLE stock_outlook (
    item_id ${ITEM} NOT NULL,
    place_id ${UUID} NOT NULL DEFAULT '',
    runs_out_on DATE NULL,
    order_by DATE NULL,
    order_qty ${QTY} NOT NULL DEFAULT 0,
    needed ${QTY} NOT NULL DEFAULT 0,
    likely ${QTY} NOT NULL DEFAULT 0,
    expiring_on DATE NULL,
    expiring_qty ${QTY} NOT NULL DEFAULT 0,
    PRIMARY KEY (item_id, place_id),
    KEY stock_outlook_order (place_id, order_by, item_id),
    KEY stock_outlook_expiring (place_id, expiring_on, item_id),
    CONSTRAINT stock_outlook_item_fk FOREIGN KEY (item_id) REFERENCES items (id)
  )`,
  `CREATE TABLE kits (
    id ${UUID} NOT NULL PRIMARY KEY,
    name VARCHAR(160) NOT NULL,
    procedure_id VARCHAR(80) NOT NULL,
    active BOOLEAN NOT NULL DEFAULT TRUE,
    UNIQUE KEY kits_name (name)
  )`,
  `CREATE TABLE kit_items (
    kit_id ${UUID} NOT NULL,
    item_id ${ITEM} NOT NULL,
    qty ${QTY} NOT NULL,
    PRIMARY KEY (kit_id, item_id),
    CONSTRAINT kit_items_kit_fk FOREIGN KEY (kit_id) REFERENCES kits (id),
    CONSTRAINT kit_items_item_fk FOREIGN KEY (item_id) REFERENCES items (id)
  )`,
  // What has been put into the van for a day.
  `CREATE TABLE load_ticks (
    person_id ${UUID} NOT NULL,
    on_day DATE NOT NULL,
    line VARCHAR(120) NOT NULL,
    ticked_by ${UUID} NOT NULL,
    ticked_at DATETIME(3) NOT NULL,
    PRIMARY KEY (person_id, on_day, line)
  )`,
  `CREATE TABLE orders (
    id ${UUID} NOT NULL PRIMARY KEY,
    supplier_id ${UUID} NOT NULL,
    place_id ${UUID} NOT NULL,
    status ENUM('draft','sending','sent','partly','received','refused','cancelled') NOT NULL DEFAULT 'draft',
    made_by ${UUID} NOT NULL,
    made_at DATETIME(3) NOT NULL,
    sent_at DATETIME(3) NULL,
    supplier_ref VARCHAR(80) NULL,
    expected_on DATE NULL,
    fault VARCHAR(500) NULL,
    attempts INT UNSIGNED NOT NULL DEFAULT 0,
    KEY orders_status (status, made_at),
    KEY orders_made (made_at, id),
    KEY orders_supplier (supplier_id, status),
    CONSTRAINT orders_supplier_fk FOREIGN KEY (supplier_id) REFERENCES suppliers (id),
    CONSTRAINT orders_place_fk FOREIGN KEY (place_id) REFERENCES places (id)
  )`,
  `CREATE TABLE order_lines (
    id ${UUID} NOT NULL PRIMARY KEY,
    order_id ${UUID} NOT NULL,
    item_id ${ITEM} NOT NULL,
    packs INT UNSIGNED NOT NULL,
    pack_size ${QTY} NOT NULL,
    pack_price_cents INT UNSIGNED NULL,
    machine_id ${UUID} NULL,
    promised_packs INT UNSIGNED NULL,
    received_packs INT UNSIGNED NOT NULL DEFAULT 0,
    fault VARCHAR(300) NULL,
    KEY order_lines_order (order_id),
    KEY order_lines_item (item_id),
    CONSTRAINT order_lines_order_fk FOREIGN KEY (order_id) REFERENCES orders (id),
    CONSTRAINT order_lines_item_fk FOREIGN KEY (item_id) REFERENCES items (id)
  )`,
  // What the firm counts with: its hourly rate, for one.
  `CREATE TABLE settings (
    name VARCHAR(60) NOT NULL PRIMARY KEY,
    value JSON NOT NULL
  )`,
];

const CHANGES = [
  "ALTER TABLE run_minutes ADD KEY run_minutes_done (done_on, run_id, hands_minutes)",
  // The meters' values when the piece went in.
  "ALTER TABLE machine_slots ADD COLUMN meters JSON NOT NULL DEFAULT '{}'",
];

export const stores: Migration = {
  name: "0006-stores",
  async up(query) {
    for (const table of TABLES)
      await query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
    for (const change of CHANGES) await query(change);
  },
};
