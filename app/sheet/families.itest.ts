import { must } from "@core";
import { getDb } from "@db";

import { getDuty, listMachineDuties } from "~/duties/due.server";
import type { Actor } from "~/kit/actor";
import { logOccurrence } from "~/machines/machines.server";
import { logMeterReading } from "~/machines/meters.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { workAndSign } from "~/testing/sheets";

import { slotsOf } from "./log/sheet-context.server";

/** Each of the nineteen families: a sheet worked to the signature, with the rule that is its own. */
const NOW = new Date("2026-06-10T09:00:00Z"); // a Wednesday
const day = (days: number): Date => new Date(NOW.getTime() + days * 86_400_000);
let ada: Actor;
let lead: Actor;

const MACHINES: [tag: string, family: string, options: string][] = [
  ["chiller-central", "recirculating-chiller", "central"],
  ["chiller-portable", "recirculating-chiller", ""],
  ["mass-spec", "mass-spectrometer", ""],
  ["flatbed", "flatbed-uv-printer", ""],
  ["toaster", "conveyor-toaster", ""],
  ["toaster-two", "conveyor-toaster", "two-lane"],
  ["scrubber", "ride-on-scrubber", ""],
  ["stainer", "slide-stainer", ""],
  ["ice", "flake-ice-maker", "water-filter"],
  ["plotter", "wide-format-printer", ""],
  ["lathe", "cnc-lathe", ""],
  ["cabinet", "prep-cabinet", "wick-pad"],
  ["cabinet-front", "prep-cabinet", "front-breathing"],
  ["steriliser", "steam-steriliser", ""],
  ["analyser", "chemistry-analyser", ""],
  ["icp", "icp-spectrometer", ""],
  ["oven", "conveyor-oven", ""],
  ["soft-serve", "soft-serve-freezer", ""],
  ["cards", "card-printer", ""],
  ["tunnel", "wash-tunnel-conveyor", ""],
  ["sweeper", "ride-on-sweeper", "side-brooms"],
  ["mill", "dental-mill", ""],
];

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  [ada, lead] = [await addActor("Ada"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    MACHINES.map(
      ([tag, family, options]) =>
        `Co,Site,,Europe/Lisbon,,"Mon-Fri 06:00-20:00; Sat, Sun closed",Hall,${tag},Machine ${tag},${family},${options},2026-06-01`,
    ),
    day(-9),
  );
});
afterAll(closeDatabase);

const duty = async (tag: string, procedureId: string, at = NOW) =>
  must(await getDuty(await dutyOf(tag, procedureId), at)).row;
const shownSteps = (state: { steps: Record<string, unknown> }): string[] => Object.keys(state.steps);

it("1 chiller: central and portable differ; crosswise in passes; packed solid means a new screen; its own clean value", async () => {
  const central = await workAndSign(ada, "chiller-central", "recirculating-chiller-strainer", NOW, {
    readings: { "water-pressure": [180], "water-pressure-clean": [240] },
  });
  expect(shownSteps(central.state)).toEqual(
    expect.arrayContaining(["gate-shut-in-1", "gate-purged-in-1", "tighten", "brush", "leak"]),
  );
  expect(shownSteps(central.state)).not.toContain("wiggle");
  expect(must(central.state.steps.tighten).counted).toBe(3);
  // What it reads when it is clean is what the next glance is held against.
  const glance = (value: number, on: Date) =>
    workAndSign(ada, "chiller-central", "recirculating-chiller-weekly-check", on, {
      readings: { "water-pressure": [value] },
    });
  expect(must((await glance(230, day(1))).state.steps["water-pressure"]).answer).toBe("in");
  expect(must((await glance(200, day(2))).state.steps["water-pressure"]).answer).toBe("low");

  const portable = await workAndSign(ada, "chiller-portable", "recirculating-chiller-strainer", NOW, {
    answers: { condition: "packed" },
  });
  expect(shownSteps(portable.state)).toEqual(expect.arrayContaining(["wiggle", "leak-portable", "new-screen"]));
  expect(shownSteps(portable.state)).not.toContain("brush");
  expect(shownSteps(portable.state)).not.toContain("tighten");
  expect(portable.state.parts.map((part) => part.item)).toEqual(["strainer-screen"]);
});

it("2 mass spectrometer: vented before anything is pulled, two clicks; advanced where film stays; it holds the routine clean", async () => {
  const routine = await workAndSign(ada, "mass-spec", "mass-spectrometer-routine", NOW);
  const full = await workAndSign(ada, "mass-spec", "mass-spectrometer-full", day(1), {
    answers: { guide: "advanced" },
    readings: { "signal-check": [76_000, 102_000] },
  });
  const items = (state: typeof full.state): string[] => [...new Set(state.consumables.map((one) => one.item))].sort();
  expect(items(routine.state)).toEqual(["methanol", "swabs-polyester", "water-lc", "wipes-lint-free"]);
  expect(items(full.state)).toEqual([...items(routine.state), "detergent-packet", "isopropanol-lc"].sort());
  const at = (id: string): string => must(must(full.state.steps[id]).at);
  expect(at("gate-vented-in-1") < at("press-the-latches-orifice-plate-off")).toBe(true);
  expect(at("clicks") < at("routine-front-plate-on")).toBe(true);
  // Activated last, and read then.
  expect(at("vacuum") < at("routine-signal")).toBe(true);
  expect(must(full.state.steps.clicks).counted).toBe(2);
  expect(shownSteps(full.state)).toEqual(expect.arrayContaining(["detergent", "hot-rinse", "alcohol"]));
  // Due again a day after the full clean, not after the routine one.
  expect((await duty("mass-spec", "mass-spectrometer-routine", day(1))).dueOn).toBe("2026-06-12");
});

it("2 mass spectrometer: a signal below its limit makes the full clean due", async () => {
  await workAndSign(ada, "mass-spec", "mass-spectrometer-routine", day(3), { readings: { "signal-check": [71_000] } });
  expect(await duty("mass-spec", "mass-spectrometer-full", day(3))).toMatchObject({
    state: "due",
    dueOn: "2026-06-13",
  });
});

it("3 flatbed printer: before the idle weekend; cleaner is followed by alcohol; a full bottle is emptied; grease only against noise", async () => {
  expect((await duty("flatbed", "flatbed-uv-printer-weekly")).dueOn).toBe("2026-06-05");
  const { state } = await workAndSign(ada, "flatbed", "flatbed-uv-printer-weekly", NOW, {
    answers: { alcohol: "ipa-91", underside: "cleaner" },
    readings: { "waste-level": [62, 30] },
    notOk: ["lamp-filter"],
  });
  const at = (id: string): string => must(must(state.steps[id]).at);
  expect(at("underside-cleaner") < at("underside-alcohol")).toBe(true);
  expect(shownSteps(state)).toContain("99-for-the-lens-all-the-same");
  expect(must(state.steps["waste-empty"]).status).toBe("done");
  expect(state.parts.map((part) => part.item)).toEqual(["lamp-filter"]);
  expect(state.consumables.map((one) => one.item)).not.toContain("lithium-grease");
  expect((await duty("flatbed", "flatbed-uv-printer-weekly")).dueOn).toBe("2026-06-12");
  const loud = await workAndSign(ada, "flatbed", "flatbed-uv-printer-weekly", day(2), { notOk: ["noise"] });
  expect(loud.state.consumables.map((one) => one.item)).toContain("lithium-grease");
});

it("4 toaster: reflectors on two-lane units only; brushed where it is, trays emptied after it; filters fully dry", async () => {
  const one = await workAndSign(ada, "toaster", "conveyor-toaster-daily", NOW);
  const two = await workAndSign(ada, "toaster-two", "conveyor-toaster-daily", NOW);
  expect(shownSteps(one.state)).not.toContain("reflectors");
  expect(shownSteps(two.state)).toContain("reflectors");
  const monthly = await workAndSign(ada, "toaster", "conveyor-toaster-monthly", day(1));
  expect(must(must(monthly.state.steps["filters-dry"]).timer).verdict).toBe("in");
  const at = (id: string): string => must(must(monthly.state.steps[id]).at);
  expect(at("reflector") < at("daily-crumb-trays-and-chute-out-emptied")).toBe(true);
  expect(at("filters-on") < at("daily-prove")).toBe(true);
  // The month holds the day.
  expect((await duty("toaster", "conveyor-toaster-daily", day(1))).dueOn).toBe("2026-06-12");
  await logOccurrence(
    ada,
    (await duty("toaster", "conveyor-toaster-monthly")).machineId,
    { event: "warning-light", on: null, note: "" },
    day(4),
  );
  expect((await duty("toaster", "conveyor-toaster-monthly", day(4))).dueOn).toBe("2026-06-14");
});

it("5 scrubber: the fourth edge, then a new blade; brushes in pairs", async () => {
  const { machineId } = await duty("scrubber", "ride-on-scrubber-brushes");
  const blade = async (n: number) => {
    const { state } = await workAndSign(ada, "scrubber", "ride-on-scrubber-brushes", day(n), {
      readings: { "brush-bristle": n === 4 ? [0.45, 0.6] : [0.9, 0.8] },
    });
    const part = must(state.parts.find((one) => one.slot === "rear-blade"));
    return {
      turned: part.turnedUsesLeft,
      left: must((await slotsOf(machineId))["rear-blade"]).usesLeft,
      brushes: state.parts.filter((one) => one.item === "scrub-brush").length,
    };
  };
  expect(await blade(0)).toEqual({ turned: null, left: 4, brushes: 0 });
  expect(await blade(1)).toEqual({ turned: 3, left: 3, brushes: 0 });
  expect(await blade(2)).toEqual({ turned: 2, left: 2, brushes: 0 });
  expect(await blade(3)).toEqual({ turned: 1, left: 1, brushes: 0 });
  expect(await blade(4)).toEqual({ turned: null, left: 4, brushes: 2 });
  // Gravity before water; the monthly look-over holds brushes and blade; a drive fault stops the machine.
  const battery = await workAndSign(ada, "scrubber", "ride-on-scrubber-battery", day(5), { notOk: ["cells-height"] });
  const at = (id: string): string => must(must(battery.state.steps[id]).at);
  expect(at("gravity") < at("fill-height")).toBe(true);
  const over = await workAndSign(ada, "scrubber", "ride-on-scrubber-look-over", day(6), { notOk: ["drive"] });
  expect(over.state.findings.map((one) => one.severity)).toContain("unsafe");
  expect(over.state.parts.some((one) => one.slot === "rear-blade")).toBe(true);
});

it("6 stainer: a soak over twenty minutes is flagged, eight changes of water, due after each run", async () => {
  const { machineId } = await duty("stainer", "slide-stainer-chambers");
  await logOccurrence(ada, machineId, { event: "after-run", on: null, note: "" }, NOW);
  expect((await duty("stainer", "slide-stainer-chambers")).state).toBe("due");
  const { state } = await workAndSign(ada, "stainer", "slide-stainer-chambers", NOW, {
    waited: { "chlorine-soak": 23 },
    strengths: { "bleach-stock": 4 },
  });
  expect(must(state.steps["chlorine-soak"]).timer).toMatchObject({ verdict: "long", minutes: 23 });
  expect(must(state.steps["rinse-eight"]).counted).toBe(8);
  // 1 % from a stock of 4 %: a quarter of half a litre.
  expect(must(state.steps.bleach).mixed).toMatchObject({
    finalMl: 500,
    stockPercent: 4,
    amounts: [
      { item: "bleach-stock", ml: 125 },
      { item: "water", ml: 375 },
    ],
  });
  expect((await duty("stainer", "slide-stainer-chambers", day(1))).state).toBe("later");
});

it("7 ice maker: the whole cycle again until clean; a feeler that goes in renews top and bottom", async () => {
  const { state } = await workAndSign(ada, "ice", "flake-ice-maker-clean-sanitise", NOW, {
    rounds: 3,
    readings: { "auger-bearing-gap": [0.02] },
  });
  expect(state.rounds["reservoir-clean"]).toBe(3);
  expect(state.parts.map((part) => part.slot)).toEqual(["bearing-top", "bearing-bottom"]);
  expect((await duty("ice", "flake-ice-maker-clean-sanitise")).dueOn).toBe("2027-06-10");
});

it("8 wide-format printer: a head stays with its colour slot; the counter is set back", async () => {
  const { machineId } = await duty("plotter", "wide-format-printer-head");
  const head = await workAndSign(ada, "plotter", "wide-format-printer-head", NOW, { answers: { slot: "yellow" } });
  expect(head.state.parts).toMatchObject([{ item: "print-head", slot: "yellow" }]);
  expect(Object.keys(await slotsOf(machineId))).toEqual(["yellow"]);
  const { state } = await workAndSign(ada, "plotter", "wide-format-printer-periodic", day(1), {
    readings: { "service-counter": [12_400] },
  });
  expect(must(state.steps.reset).readings.map((one) => one.value)).toEqual([0]);
  const [last] = await getDb().select<{ value: number }>(
    "SELECT value FROM meter_readings WHERE machine_id = :machineId ORDER BY read_at DESC, id DESC LIMIT 1",
    { machineId },
  );
  expect(must(last).value).toBe(0);
});

it("9 lathe: duties on several hour bases, wipers as a pair", async () => {
  const { machineId } = await duty("lathe", "cnc-lathe-100h");
  for (const [n, value] of [
    [-8, 900],
    [-1, 990],
  ] as const)
    await logMeterReading(ada, machineId, { meter: "cutting-hours", value }, day(n));
  const before = await duty("lathe", "cnc-lathe-100h", day(-1));
  expect(before).toMatchObject({ projected: true, state: "notice", dueOn: "2026-06-10" });
  await workAndSign(ada, "lathe", "cnc-lathe-100h", NOW, { readings: { "cutting-hours": [1001] } });
  const { state } = await workAndSign(ada, "lathe", "cnc-lathe-400h", NOW, { readings: { "running-hours": [2000] } });
  expect(state.parts.map((part) => part.slot)).toEqual(["hydraulic-filter", "wiper-left", "wiper-right"]);
  expect(
    must((await duty("lathe", "cnc-lathe-100h", day(1))).dueOn) > (await duty("lathe", "cnc-lathe-100h", day(1))).today,
  ).toBe(true);
});

it("10 prep cabinet: a full pan means a blocked drain; the pad is washed; no clearance is wanted where it breathes at the front", async () => {
  const { state } = await workAndSign(ada, "cabinet", "prep-cabinet-monthly", NOW, { notOk: ["pan"] });
  expect(must(state.steps.drain).status).toBe("done");
  const side = await workAndSign(ada, "cabinet", "prep-cabinet-condenser", NOW, { readings: { clearance: [3, 2, 4] } });
  const front = await workAndSign(ada, "cabinet-front", "prep-cabinet-condenser", NOW);
  expect(must(side.state.steps.clearance).answer).toBe("low");
  expect(shownSteps(side.state)).toContain("wash-pad");
  expect(shownSteps(front.state)).not.toContain("clearance");
});

it("11 steriliser: a forbidden disinfectant is left out; weeks count from the last completion, whatever was off", async () => {
  const { state } = await workAndSign(ada, "steriliser", "steam-steriliser-daily", NOW, {
    answers: { agent: "forbidden" },
  });
  expect(state.consumables).toEqual([]);
  await workAndSign(ada, "steriliser", "steam-steriliser-weekly", NOW);
  expect((await duty("steriliser", "steam-steriliser-weekly", day(3))).dueOn).toBe("2026-06-17");
});

it("12 analyser: wells dry while the rest goes on; the check fluids prove it; weekly holds daily", async () => {
  const { state, entries } = await workAndSign(ada, "analyser", "chemistry-analyser-weekly", NOW, {
    readings: { "check-fluid-low": [3.1, 2.6] },
  });
  expect(must(state.steps["check-low"]).readings.map((one) => one.verdict)).toEqual(["high", "in"]);
  expect(entries.some((entry) => entry.type === "timer-started" && entry.step === "wells-dry")).toBe(true);
  expect((await duty("analyser", "chemistry-analyser-daily")).dueOn).toBe("2026-06-11");
});

it("13 ICP: either school for carbon, the burn-out being the default; tubing as a pair; intensity down makes the windows due", async () => {
  const burnt = await workAndSign(ada, "icp", "icp-spectrometer-carbon", NOW);
  const soaked = await workAndSign(ada, "icp", "icp-spectrometer-carbon", day(1), { answers: { school: "acid" } });
  expect([must(burnt.state.steps.school).answer, must(soaked.state.steps.school).answer]).toEqual(["burn-out", "acid"]);
  expect(shownSteps(burnt.state)).not.toContain("acid-soak");
  expect(shownSteps(soaked.state)).not.toContain("furnace");
  await workAndSign(ada, "icp", "icp-spectrometer-daily", day(2), {
    readings: { intensity: [160] },
    notOk: ["tubing"],
  });
  expect(await duty("icp", "icp-spectrometer-windows", day(2))).toMatchObject({ dueOn: "2026-06-12", state: "due" });
});

it("14 oven: the weekly holds the daily's steps, soaks overlap, belt time is the mean of two runs", async () => {
  const { state } = await workAndSign(ada, "oven", "conveyor-oven-weekly", NOW, {
    readings: { "belt-time": [313, 319] },
  });
  expect(shownSteps(state)).toEqual(
    expect.arrayContaining(["daily-brush-the-belt-its-full-length", "daily-belt-runs"]),
  );
  // Mean 316 s against 285 to 315, though one of the runs is within.
  expect(must(state.steps["belt-time"]).answer).toBe("high");
  expect((await duty("oven", "conveyor-oven-daily")).dueOn).toBe("2026-06-11");
});

it("15 soft serve: missed, the machine stops; the strip-down lifts it and sets off the assembly on the next open day", async () => {
  expect((await duty("soft-serve", "soft-serve-freezer-14-day", day(6))).state).toBe("stopped");
  // Signed on a Friday: the next open day is Monday.
  const { state } = await workAndSign(ada, "soft-serve", "soft-serve-freezer-14-day", day(9));
  expect(state.parts.map((part) => part.slot)).toEqual(["door-rings", "shaft-rings"]);
  expect((await duty("soft-serve", "soft-serve-freezer-14-day", day(9))).state).toBe("later");
  expect((await duty("soft-serve", "soft-serve-freezer-reassembly", day(9))).dueOn).toBe("2026-06-22");
});

it("16 card printer: a stick serves twice, three strokes, due at each ribbon", async () => {
  const { machineId } = await duty("cards", "card-printer-ribbon");
  const lefts: number[] = [];
  const news: boolean[] = [];
  for (let n = 0; n < 3; n++) {
    await logOccurrence(ada, machineId, { event: "ribbon-replaced", on: null, note: "" }, day(n));
    const { state } = await workAndSign(ada, "cards", "card-printer-ribbon", day(n));
    expect(must(state.steps.strokes).counted).toBe(3);
    news.push(must(state.parts[0]).turnedUsesLeft === null);
    lefts.push(must((await slotsOf(machineId))["kit-stick"]).usesLeft);
  }
  expect(news).toEqual([true, false, true]);
  expect(lefts).toEqual([2, 1, 2]);
});

it("17 wash tunnel: oil first at three months, then at six; thickness at several points", async () => {
  expect((await duty("tunnel", "wash-tunnel-conveyor-half-year")).dueOn).toBe("2026-09-01");
  const { sheetId } = await workAndSign(ada, "tunnel", "wash-tunnel-conveyor-half-year", day(82), {
    readings: { "belt-thickness": [9.4, 9.1, 9.3] },
  });
  expect((await duty("tunnel", "wash-tunnel-conveyor-half-year", day(82))).dueOn).toBe("2027-02-28");
  const values = await getDb().select<{ value: number }>(
    "SELECT value FROM readings WHERE sheet_id = :sheetId AND reading = 'belt-thickness' ORDER BY id",
    {
      sheetId,
    },
  );
  expect(values.map((row) => row.value)).toEqual([9.4, 9.1, 9.3]);
});

it("18 sweeper: one side broom worn renews both; the polish mark is adjusted and measured again", async () => {
  const { state } = await workAndSign(ada, "sweeper", "ride-on-sweeper-daily", NOW, {
    readings: { "side-broom-bristle": [2.4, 3], "polish-mark": [1.9, 0.7, 1.3] },
  });
  expect(state.parts.map((part) => part.slot)).toEqual(["side-left", "side-right"]);
  expect(must(state.steps["polish-mark"]).readings.map((one) => one.verdict)).toEqual(["high", "low", "in"]);
  expect(must(state.steps["polish-mark"]).readings.map((one) => one.stage)).toEqual(["as-found", "as-left", "as-left"]);
});

it("19 dental mill: the tank is drained on Friday and refilled on Monday with 75 mL additive", async () => {
  const friday = day(2);
  await workAndSign(ada, "mill", "dental-mill-drain", friday);
  expect((await duty("mill", "dental-mill-refill", friday)).dueOn).toBe("2026-06-15");
  const { state } = await workAndSign(ada, "mill", "dental-mill-refill", day(5));
  expect(must(state.steps.fill).mixed).toMatchObject({
    amounts: [
      { item: "mill-additive", ml: 75 },
      { item: "water", ml: 2925 },
    ],
  });
  expect((await duty("mill", "dental-mill-drain", friday)).dueOn).toBe("2026-06-19");
});

it("has duties for every machine of every family", async () => {
  const rows = await getDb().select<{ id: string; family: string }>("SELECT id, family FROM machines");
  expect(new Set(rows.map((row) => row.family)).size).toBe(19);
  for (const row of rows) expect((await listMachineDuties(row.id, NOW)).length).toBeGreaterThan(1);
});
