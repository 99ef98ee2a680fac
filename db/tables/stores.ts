import {
  bigWhole,
  day,
  decimal,
  fixedText,
  flag,
  instant,
  json,
  type RowOf,
  table,
  text,
  uuid,
  whole,
} from "../columns";

export const suppliers = table("suppliers", {
  id: uuid().key(),
  name: text(160),
  code: text(40).withDefault(""),
  email: text(160).withDefault(""),
  leadDays: whole().withDefault(7),
  active: flag().withDefault(true),
});
export type SupplierRow = RowOf<typeof suppliers>;

/** The catalogue. Quantities are kept in unit; what is sold is a pack of them. Prices are cents, for a pack. */
export const items = table("items", {
  id: text(80).key(),
  name: text(160),
  kind: text<"part" | "consumable" | "chemical" | "tool" | "protective">(10),
  unit: text(16),
  packSize: decimal(14, 3).withDefault(1),
  packName: text(60).withDefault(""),
  usesPerPiece: whole().withDefault(1),
  shelfLifeDays: whole().orNull(),
  hazards: json<string[]>().withDefault([]),
  storage: text(300).withDefault(""),
  alternatives: json<string[]>().withDefault([]),
  packPriceCents: whole().orNull(),
  supplierId: uuid().orNull(),
  orderCode: text(60).withDefault(""),
  leadDays: whole().orNull(),
  needsSerial: flag().withDefault(false),
  scanCode: text(64).orNull(),
  active: flag().withDefault(true),
});
export type ItemRow = RowOf<typeof items>;

export const places = table("places", {
  id: uuid().key(),
  kind: text<"van" | "depot" | "shelf">(5),
  name: text(160),
  personId: uuid().orNull(),
  siteId: uuid().orNull(),
  active: flag().withDefault(true),
});
export type PlaceRow = RowOf<typeof places>;

export const lots = table("lots", {
  id: uuid().key(),
  itemId: text(80),
  lot: text(60),
  expiresOn: day().orNull(),
});
export type LotRow = RowOf<typeof lots>;

/** The ledger: only ever inserted. The sum of qty is the stock. */
export const stockMoves = table("stock_moves", {
  seq: bigWhole().key().counted(),
  id: uuid(),
  itemId: text(80),
  placeId: uuid(),
  lotId: uuid().orNull(),
  kind: text<"opening" | "receive" | "move" | "use" | "scrap" | "count">(7),
  qty: decimal(14, 3),
  costCents: decimal(14, 4).orNull(),
  at: instant(),
  onDay: day(),
  byPerson: uuid(),
  sheetId: uuid().orNull(),
  entryId: uuid().orNull(),
  machineId: uuid().orNull(),
  orderLineId: uuid().orNull(),
  pairId: uuid().orNull(),
  note: text(300).withDefault(""),
  counted: decimal(14, 3).orNull(),
});
export type StockMoveRow = RowOf<typeof stockMoves>;

/** Running sums of the ledger, kept in the transaction that adds to it. */
export const stock = table("stock", {
  itemId: text(80).key(),
  placeId: uuid().key(),
  onHand: decimal(14, 3).withDefault(0),
  reserved: decimal(14, 3).withDefault(0),
  countAsked: flag().withDefault(false),
  countedAt: instant().orNull(),
  fullQty: decimal(14, 3).orNull(),
});
export type StockRow = RowOf<typeof stock>;

/** The same by lot. */
export const stockLots = table("stock_lots", {
  itemId: text(80).key(),
  placeId: uuid().key(),
  lotId: uuid().key(),
  qty: decimal(14, 3).withDefault(0),
});
export type StockLotRow = RowOf<typeof stockLots>;

/** When an item runs out, for the firm as a whole (place '') and at each place, as worked out last. */
export const stockOutlook = table("stock_outlook", {
  itemId: text(80).key(),
  placeId: uuid().key().withDefault(""),
  runsOutOn: day().orNull(),
  orderBy: day().orNull(),
  orderQty: decimal(14, 3).withDefault(0),
  needed: decimal(14, 3).withDefault(0),
  likely: decimal(14, 3).withDefault(0),
  /** With what is expected besides. */
  likelyOutOn: day().orNull(),
  likelyOrderBy: day().orNull(),
  expiringOn: day().orNull(),
  expiringQty: decimal(14, 3).withDefault(0),
});
export type StockOutlookRow = RowOf<typeof stockOutlook>;

/** Pieces held for a person and a day, or for an open item. */
export const reservations = table("reservations", {
  id: uuid().key(),
  itemId: text(80),
  placeId: uuid(),
  qty: decimal(14, 3),
  /** For an open item, nobody's and no day's: whoever goes there takes it. */
  personId: uuid().orNull(),
  onDay: day().orNull(),
  dutyId: uuid().orNull(),
  openItemId: uuid().orNull(),
  madeAt: instant(),
  endedAt: instant().orNull(),
  endedWhy: text<"used" | "released">(8).orNull(),
});
export type ReservationRow = RowOf<typeof reservations>;

export const kits = table("kits", {
  id: uuid().key(),
  name: text(160),
  procedureId: text(80),
  active: flag().withDefault(true),
});
export type KitRow = RowOf<typeof kits>;

export const kitItems = table("kit_items", {
  kitId: uuid().key(),
  itemId: text(80).key(),
  qty: decimal(14, 3),
});
export type KitItemRow = RowOf<typeof kitItems>;

/** What has been put into the van for a day. */
export const loadTicks = table("load_ticks", {
  personId: uuid().key(),
  onDay: day().key(),
  line: text(120).key(),
  tickedBy: uuid(),
  tickedAt: instant(),
});
export type LoadTickRow = RowOf<typeof loadTicks>;

export const orders = table("orders", {
  id: uuid().key(),
  supplierId: uuid(),
  placeId: uuid(),
  status: text<"draft" | "sending" | "sent" | "partly" | "received" | "refused" | "cancelled">(9).withDefault("draft"),
  madeBy: uuid(),
  madeAt: instant(),
  sentAt: instant().orNull(),
  supplierRef: text(80).orNull(),
  expectedOn: day().orNull(),
  fault: text(500).orNull(),
  attempts: whole().withDefault(0),
});
export type OrderRow = RowOf<typeof orders>;

export const orderLines = table("order_lines", {
  id: uuid().key(),
  orderId: uuid(),
  itemId: text(80),
  packs: whole(),
  packSize: decimal(14, 3),
  packPriceCents: whole().orNull(),
  machineId: uuid().orNull(),
  promisedPacks: whole().orNull(),
  receivedPacks: whole().withDefault(0),
  fault: text(300).orNull(),
});
export type OrderLineRow = RowOf<typeof orderLines>;

/** What machines' uses cost in each month. */
export const costMonths = table("cost_months", {
  month: fixedText(7).key(),
  machineId: uuid().key(),
  cents: decimal(16, 4).withDefault(0),
});
export type CostMonthRow = RowOf<typeof costMonths>;

/** What the firm counts with: its hourly rate, for one. */
export const settings = table("settings", {
  name: text(60).key(),
  value: json<unknown>(),
});
export type SettingRow = RowOf<typeof settings>;
