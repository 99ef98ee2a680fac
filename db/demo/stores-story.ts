/** What the made-up firm keeps in its vans and its depot, and who supplies it. All invented: names, codes, prices. */

export const SUPPLIERS = [
  { key: "harbour", name: "Harbour Trade Supply", code: "HTS", email: "orders@harbour-trade.example", leadDays: 5 },
  {
    key: "mainland",
    name: "Mainland Instrument Parts",
    code: "",
    email: "orders@mainland-parts.example",
    leadDays: 14,
  },
] as const;

export const PLACES = [
  { kind: "depot", name: "Van yard store" },
  { kind: "van", name: "Van 1", person: "mira" },
  { kind: "van", name: "Van 2", person: "tove" },
  { kind: "shelf", name: "Clinic shelf", site: "Harbour clinic" },
] as const;

interface StoryItem {
  id: string;
  supplier: (typeof SUPPLIERS)[number]["key"];
  packSize: number;
  packName: string;
  packPriceCents: number;
  shelfLifeDays?: number;
  storage?: string;
  hazards?: string[];
  alternatives?: string[];
  needsSerial?: boolean;
  /** No sheet names it: it comes with a kit, counted in the same unit as its neighbour there. */
  ofKit?: { name: string; like: string };
}

const chemical = (id: string, packSize: number, packPriceCents: number, more: Partial<StoryItem> = {}): StoryItem => ({
  id,
  supplier: "harbour",
  packSize,
  packName: packSize >= 1000 ? `${packSize / 1000} L can` : `${packSize} mL bottle`,
  packPriceCents,
  storage: "Upright, cool, away from other products",
  ...more,
});
const part = (id: string, packPriceCents: number, more: Partial<StoryItem> = {}): StoryItem => ({
  id,
  supplier: "harbour",
  packSize: 1,
  packName: "single",
  packPriceCents,
  ...more,
});

export const ITEMS: StoryItem[] = [
  chemical("acetonitrile", 2500, 14800, {
    supplier: "mainland",
    shelfLifeDays: 730,
    hazards: ["flammable"],
    storage: "Flammables cabinet",
  }),
  chemical("acid-stock", 1000, 4200, {
    supplier: "mainland",
    hazards: ["chemical"],
    storage: "Acid cupboard, in a tray, never beside solvents or bleach",
  }),
  { ...part("alcohol-card", 1490), packSize: 10, packName: "pack of 10", shelfLifeDays: 730 },
  { ...part("swab-alcohol", 690), packSize: 5, packName: "pack of 5", shelfLifeDays: 730 },
  { ...part("roller-sleeve", 1890), packSize: 5, packName: "pack of 5" },
  part("lapping-stick", 980),
  { ...part("wipes-lint-free", 1290), packSize: 100, packName: "box of 100" },
  { ...part("swabs-foam", 1590), packSize: 50, packName: "bag of 50" },
  { ...part("swabs-cotton", 390), packSize: 100, packName: "bag of 100" },
  { ...part("gauze", 490), packSize: 100, packName: "box of 100" },
  { ...part("swabs-polyester", 1890, { supplier: "mainland" }), packSize: 50, packName: "bag of 50" },
  { ...part("paper-towel", 890), packSize: 100, packName: "roll" },
  chemical("water-lc", 2500, 4900, { supplier: "mainland" }),
  chemical("acetic-acid-lc", 50, 2900, {
    supplier: "mainland",
    hazards: ["chemical"],
    storage: "Acid cupboard, in a tray, never beside solvents or bleach",
  }),
  part("water-filter-ice", 4890, { shelfLifeDays: 1825 }),
  chemical("baking-soda", 1000, 240),
  chemical("bleach-stock", 5000, 890, {
    shelfLifeDays: 180,
    hazards: ["chemical"],
    storage: "Cool and dark, never beside acids",
  }),
  chemical("sanitiser-chlorine", 5000, 1490, {
    shelfLifeDays: 365,
    hazards: ["chemical"],
    alternatives: ["sanitiser-quat"],
    storage: "Cool and dark, never beside acids",
  }),
  chemical("sanitiser-quat", 5000, 1690, { shelfLifeDays: 730 }),
  { ...chemical("grease-water", 400, 1290), packName: "400 g cartridge" },
  chemical("coolant-mix", 10000, 4490),
  chemical("degreaser-mild", 5000, 2490, { alternatives: ["mild-soap"] }),
  chemical("descaler-mild", 1000, 1290, {
    hazards: ["chemical"],
    storage: "Never beside bleach or chlorine sanitiser",
  }),
  chemical("ice-cleaner", 4700, 3890, {
    shelfLifeDays: 730,
    hazards: ["chemical"],
    storage: "Never beside bleach or chlorine sanitiser",
  }),
  { ...part("detergent-packet", 3290, { supplier: "mainland" }), packSize: 20, packName: "box of 20" },
  chemical("detergent-mild", 1000, 690, { alternatives: ["mild-soap"] }),
  chemical("mild-soap", 5000, 990),
  chemical("distilled-water", 20000, 1490),
  chemical("deionised-water", 5000, 1090, { supplier: "mainland", shelfLifeDays: 365 }),
  chemical("check-fluid-1", 30, 8900, { supplier: "mainland", shelfLifeDays: 270, storage: "Refrigerated, 2 to 8 °C" }),
  chemical("check-fluid-2", 30, 8900, { supplier: "mainland", shelfLifeDays: 270, storage: "Refrigerated, 2 to 8 °C" }),
  chemical("stainless-polish", 500, 890),
  chemical("soil-repellent", 500, 1490, { hazards: ["flammable"], storage: "Flammables cabinet" }),
  chemical("food-lubricant", 120, 1890),
  chemical("hydraulic-oil", 5000, 3290),
  { ...part("probe-cleaner", 4290, { supplier: "mainland", shelfLifeDays: 365 }), packSize: 2, packName: "pair" },
  chemical("stainer-buffer", 5000, 5890, { supplier: "mainland", shelfLifeDays: 365 }),
  { ...part("towel-soft", 790), packSize: 100, packName: "box of 100" },
  chemical("gear-oil", 5000, 4290),
  chemical("isopropanol-70", 1000, 990, { hazards: ["flammable"], storage: "Flammables cabinet" }),
  chemical("isopropanol-99", 1000, 1190, { hazards: ["flammable"], storage: "Flammables cabinet" }),
  chemical("isopropanol-lc", 2500, 5290, {
    supplier: "mainland",
    hazards: ["flammable"],
    storage: "Flammables cabinet",
  }),
  chemical("methanol", 2500, 4890, { supplier: "mainland", hazards: ["flammable"], storage: "Flammables cabinet" }),
  chemical("mill-additive", 1000, 3490, { supplier: "mainland" }),
  chemical("pump-oil", 1000, 3990, { supplier: "mainland" }),
  chemical("lithium-grease", 50, 990),
  chemical("rail-oil", 50, 890),
  chemical("rod-oil", 50, 890),
  chemical("uv-cleaner", 1000, 5490, {
    supplier: "mainland",
    shelfLifeDays: 365,
    hazards: ["flammable"],
    storage: "Flammables cabinet",
  }),
  chemical("way-oil", 5000, 3690),
  part("auger-bearing", 8900, { needsSerial: true }),
  part("cabinet-filter", 1890),
  part("cap-seal", 2290, { supplier: "mainland" }),
  part("cabinet-fan", 6890, { needsSerial: true }),
  part("cone", 48900, { supplier: "mainland", needsSerial: true }),
  part("door-gasket", 5890, { needsSerial: true }),
  part("evaporator-o-ring", 690),
  { ...part("head-screw-seal", 590), packSize: 4, packName: "bag of 4" },
  part("ice-auger", 64900, { needsSerial: true }),
  part("hydraulic-element", 7890, { needsSerial: true }),
  part("lamp-filter", 2190, { supplier: "mainland" }),
  part("lubricator-cartridge", 3490),
  part("main-broom", 11900, { needsSerial: true }),
  part("side-broom", 4900, { needsSerial: true }),
  part("maintenance-cartridge", 6900, { supplier: "mainland" }),
  part("o-ring-kit", 2890, { needsSerial: true }),
  part("oven-fan-fuse", 390),
  part("leak-pad", 590, { supplier: "mainland" }),
  part("nebuliser", 28900, { supplier: "mainland", needsSerial: true }),
  part("spray-chamber", 19900, { supplier: "mainland", needsSerial: true }),
  part("view-window", 14900, { supplier: "mainland", needsSerial: true }),
  part("return-roller", 4290),
  { ...part("lock-clip", 690), packSize: 4, packName: "bag of 4" },
  part("oven-sprocket", 4890, { needsSerial: true }),
  part("panel-filter", 5890),
  part("print-head", 13900, { supplier: "mainland", needsSerial: true }),
  part("pump-tubing", 1290, { supplier: "mainland" }),
  part("scrub-brush", 8490),
  part("shaft-bearing", 5490, { needsSerial: true }),
  part("side-skirt", 4590),
  part("squeegee-blade", 3890),
  { ...part("stainer-chamber", 8900, { supplier: "mainland" }), packSize: 6, packName: "box of 6" },
  part("strainer-gasket", 890, { needsSerial: true }),
  part("orifice-o-ring", 1490, { supplier: "mainland" }),
  part("strainer-screen", 6890, { needsSerial: true }),
  part("strainer-seal", 190),
  part("tank-filter", 5490, { supplier: "mainland" }),
  part("torch", 29900, { supplier: "mainland", needsSerial: true }),
  part("tunnel-sprocket", 6890, { needsSerial: true }),
  part("wafer-filter", 4590),
  part("way-wiper", 3290, { needsSerial: true }),
  part("wear-plate", 7890, { needsSerial: true }),
  {
    ...part("adhesive-card", 1150, { ofKit: { name: "Adhesive card", like: "roller-sleeve" } }),
    packSize: 5,
    packName: "pack of 5",
  },
  part("wick-pad", 1190),
];

/** The supplier's code for an item: what its catalogue says. */
export const orderCode = (id: string): string => `HT-${id.toUpperCase()}`.slice(0, 40);

export const KITS = [
  {
    name: "Card printer kit",
    procedureId: "card-printer-ribbon",
    items: {
      "alcohol-card": 10,
      "adhesive-card": 5,
      "swab-alcohol": 5,
      "roller-sleeve": 5,
      "wear-disposable-gloves": 12,
      "lapping-stick": 2,
    },
  },
];

/** What stands lower than it should: left over at the end of the year, by place. */
export const LOW: { place: string; item: string; left: number }[] = [
  { place: "Van 1", item: "roller-sleeve", left: 1 },
  { place: "Van 1", item: "lapping-stick", left: 1 },
  { place: "Van 1", item: "lubricator-cartridge", left: 0 },
  { place: "Van yard store", item: "o-ring-kit", left: 0 },
];

/** Things that somebody found on the shelf and the books did not, or the other way round. */
export const COUNTS = [
  { place: "Van 2", item: "wipes-lint-free", difference: -3, note: "A few got wet and were thrown away", daysAgo: 40 },
  { place: "Van yard store", item: "water-filter-ice", difference: 1, note: "One was behind the shelf", daysAgo: 12 },
];
