import { must } from "@core";

import { logOccurrence } from "~/machines/machines.server";
import { logMeterReading } from "~/machines/meters.server";
import { closeDatabase } from "~/testing/database";
import { ada, beginFamilies, day, duty, NOW, shownSteps } from "~/testing/families";
import { workAndSign } from "~/testing/sheets";

import { slotsOf } from "./log/sheet-context.server";

/** Each of the families 1 to 10: a sheet worked to the signature, with the rule that is its own. */
beforeAll(beginFamilies);
afterAll(closeDatabase);

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

it("6 stainer: a soak over twenty minutes is flagged, eight changes of water, a worn chamber alone is replaced, due after each run", async () => {
  const { machineId } = await duty("stainer", "slide-stainer-chambers");
  await logOccurrence(ada, machineId, { event: "after-run", on: null, note: "" }, NOW);
  expect((await duty("stainer", "slide-stainer-chambers")).state).toBe("due");
  const { state } = await workAndSign(ada, "stainer", "slide-stainer-chambers", NOW, {
    waited: { "chlorine-soak": 23 },
    strengths: { "bleach-stock": 4 },
    notOk: ["gaskets"],
    worn: { "chambers-new": ["chamber-7", "chamber-31"] },
  });
  expect(must(state.steps["chlorine-soak"]).timer).toMatchObject({ verdict: "long", minutes: 23 });
  expect(must(state.steps["rinse-eight"]).counted).toBe(8);
  expect(state.parts.map((part) => part.slot)).toEqual(["chamber-7", "chamber-31"]);
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

it("6 stainer: water before the standstill, buffer after it; the alignment is verified where the clean asks for it", async () => {
  const idle = await workAndSign(ada, "stainer", "slide-stainer-idle", NOW);
  expect(idle.state.status).toBe("signed");
  expect((await duty("stainer", "slide-stainer-return")).dueOn).toBe("2026-06-11");
  await workAndSign(ada, "stainer", "slide-stainer-return", day(1));
  const before = must((await duty("stainer", "slide-stainer-alignment")).dueOn);
  await workAndSign(ada, "stainer", "slide-stainer-weekly", day(1), { notOk: ["in-line"] });
  expect(must((await duty("stainer", "slide-stainer-alignment", day(1))).dueOn) > before).toBe(true);
});

it("7 ice maker: the whole cycle again until clean, frozen out with the water shut, then the same with sanitiser", async () => {
  const { state } = await workAndSign(ada, "ice", "flake-ice-maker-clean-sanitise", NOW, { rounds: 3 });
  expect(state.rounds["reservoir-clean"]).toBe(3);
  const at = (id: string): string => must(must(state.steps[id]).at);
  const order = [
    "drain-cleaner",
    "freeze-out-cleaner#3",
    "flush",
    "sanitiser",
    "freeze-out-sanitiser",
    "flush-again",
    "first-ice",
  ];
  expect(order.map(at)).toEqual(order.map(at).sort());
  expect((await duty("ice", "flake-ice-maker-clean-sanitise")).dueOn).toBe("2027-06-10");
});

it("7 ice maker: a feeler that goes in anywhere renews top and bottom, and no ice before the clean", async () => {
  const { state } = await workAndSign(ada, "ice", "flake-ice-maker-bearings", NOW, {
    readings: { "auger-bearing-gap": [0.01, 0.02, 0, 0, 0, 0, 0, 0] },
  });
  expect(state.parts.map((part) => part.slot)).toEqual(["bearing-top", "bearing-bottom"]);
  expect((await duty("ice", "flake-ice-maker-bearings-new", day(1))).state).toBe("later");
  const left = await workAndSign(ada, "ice", "flake-ice-maker-bearings", day(2), {
    readings: { "auger-bearing-gap": [0, 0, 0.025, 0] },
    answers: { today: "later" },
  });
  expect(left.state.parts).toEqual([]);
  expect((await duty("ice", "flake-ice-maker-bearings-new", day(2))).state).toBe("due");
});

it("8 wide-format printer: heads by slot, never to other colours; the care counter is set back last of the work", async () => {
  const { machineId } = await duty("plotter", "wide-format-printer-head");
  const head = await workAndSign(ada, "plotter", "wide-format-printer-head", NOW, {
    answers: { "goes-in": "virgin" },
    worn: { "head-virgin": ["slot-3"] },
  });
  expect(head.state.parts).toMatchObject([{ item: "print-head", slot: "slot-3" }]);
  expect(Object.keys(await slotsOf(machineId))).toEqual(["slot-3"]);
  const other = await workAndSign(ada, "plotter", "wide-format-printer-head", NOW, { answers: { "goes-in": "other" } });
  expect(shownSteps(other.state)).toContain("refused");
  await logOccurrence(ada, machineId, { event: "care-warning", on: null, note: "" }, day(1));
  expect((await duty("plotter", "wide-format-printer-periodic", day(1))).state).toBe("due");
  const { state } = await workAndSign(ada, "plotter", "wide-format-printer-periodic", day(1), {
    waited: { uncapped: 14 },
  });
  expect(must(state.steps.uncapped).timer).toMatchObject({ verdict: "long" });
  const at = (id: string): string => must(must(state.steps[id]).at);
  expect(["left", "right", "home", "bed", "reset"].map(at)).toEqual(
    ["left", "right", "home", "bed", "reset"].map(at).sort(),
  );
  expect((await duty("plotter", "wide-format-printer-periodic", day(1))).dueOn).toBe("2026-12-11");
});

it("9 lathe: duties on several hour bases, the complete set of wipers, isolated once for a whole service", async () => {
  const { machineId } = await duty("lathe", "cnc-lathe-100h");
  for (const [n, value] of [
    [-8, 900],
    [-1, 990],
  ] as const)
    await logMeterReading(ada, machineId, { meter: "cutting-hours", value }, day(n));
  const before = await duty("lathe", "cnc-lathe-100h", day(-1));
  expect(before).toMatchObject({ projected: true, state: "notice", dueOn: "2026-06-10" });
  await workAndSign(ada, "lathe", "cnc-lathe-100h", NOW, { readings: { "cutting-hours": [1001] } });
  const { state } = await workAndSign(ada, "lathe", "cnc-lathe-400h", NOW, {
    readings: {
      "power-on-hours": [5000],
      "running-hours": [2000],
      "cutting-hours": [1001],
      "spindle-hours": [1200],
      "axis-hours": [900],
    },
    notOk: ["cabinet-fans-felt"],
  });
  expect(state.parts.map((part) => part.slot)).toEqual([
    "fan-1",
    "wiper-x-left",
    "wiper-x-right",
    "wiper-z-left",
    "wiper-z-right",
    "lubricator",
    "hydraulic-filter",
  ]);
  expect(Object.keys(state.steps).filter((id) => id.startsWith("gate-isolated-in"))).toHaveLength(1);
  for (const covered of ["cnc-lathe-yearly", "cnc-lathe-cabinet"])
    expect((await duty("lathe", covered, day(1))).anchorOn).toBe("2026-06-10");
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
