import { must } from "@core";
import { getDb } from "@db";

import { listMachineDuties } from "~/duties/due.server";
import { holdsOf } from "~/duties/holds.server";
import { logOccurrence } from "~/machines/machines.server";
import { closeDatabase } from "~/testing/database";
import { ada, beginFamilies, day, duty, NOW, shownSteps } from "~/testing/families";
import { workAndSign, type Worked } from "~/testing/sheets";

import { slotsOf } from "./log/sheet-context.server";

/** Each of the families 11 to 19: a sheet worked to the signature in several ways, with the rules that are its own. */
beforeAll(beginFamilies);
afterAll(closeDatabase);

const usedOf = ({ state }: Worked): string[] => [...new Set(state.consumables.map((one) => one.item))].sort();
/** Whether the steps were settled in this order. */
function inOrder({ state }: Worked, ...steps: string[]): boolean {
  const at = steps.map((id) => must(must(state.steps[id]).at));
  return at.every((one, i) => i === 0 || must(at[i - 1]) < one);
}
const held = async (tag: string, procedureId: string): Promise<string[]> =>
  (await holdsOf((await duty(tag, procedureId)).machineId)).map((one) => one.reason);

it("11 steriliser: a banned disinfectant stays off; a bad gasket takes it out of use, no cycle; weeks count by us", async () => {
  const banned = await workAndSign(ada, "steriliser", "steam-steriliser-daily", NOW, {
    answers: { agent: "forbidden" },
  });
  expect(usedOf(banned)).toEqual([]);
  expect(shownSteps(banned.state)).toEqual(expect.arrayContaining(["wipe-damp", "tell-site"]));
  const weekly = await workAndSign(ada, "steriliser", "steam-steriliser-weekly", NOW);
  expect(usedOf(weekly)).toEqual(["detergent-mild", "distilled-water", "sanitiser-quat"]);
  // Drained before it is washed, the tube up before it is filled, trays out before the rack; off and cold for all of it.
  expect(inOrder(weekly, "daily-agent", "gate-cold-in-1", "gate-off-in-1", "tube-down")).toBe(true);
  expect(inOrder(weekly, "tube-down", "tube-up", "trays-out", "rack-out", "rack-in", "trays-in")).toBe(true);
  expect(inOrder(weekly, "trays-in", "refill-distilled", "gate-off-out-1", "start", "proof")).toBe(true);
  expect((await duty("steriliser", "steam-steriliser-weekly", day(3))).dueOn).toBe("2026-06-17");
  expect((await duty("steriliser", "steam-steriliser-daily")).dueOn).toBe("2026-06-11");
  const torn = await workAndSign(ada, "steriliser", "steam-steriliser-weekly", day(8), {
    notOk: ["daily-gaskets"],
    answers: { go: "no", water: "purified" },
  });
  expect(shownSteps(torn.state)).not.toContain("cycle");
  expect(shownSteps(torn.state)).not.toContain("daily-gasket-wipe");
  expect(must(torn.state.findings[0]).severity).toBe("unsafe");
  expect(await held("steriliser", "steam-steriliser-weekly")).toHaveLength(1);
});

it("12 analyser: rings dry while other areas go on, damp ones stand on; gears before rings; both check fluids prove it", async () => {
  const worked = await workAndSign(ada, "analyser", "chemistry-analyser-weekly", NOW, {
    readings: { "check-fluid-1": [3.1, 0.4] },
  });
  expect(must(worked.state.steps["fluid-1"]).readings.map((one) => one.verdict)).toEqual(["high", "in"]);
  const start = must(worked.entries.find((one) => one.type === "timer-started" && one.step === "wells-dry")).at;
  // The clock runs while pins and contacts are done, and is over before a ring goes back.
  expect(start < must(must(worked.state.steps["pins-out"]).at)).toBe(true);
  expect(inOrder(worked, "gears-out", "rings-out", "pins-home", "rings-in", "gears-in", "weight-in")).toBe(true);
  expect(inOrder(worked, "wells-dry", "dry", "rings-in", "tick-1")).toBe(true);
  expect(inOrder(worked, "sensors", "guide-on", "gate-idle-out-1", "fluid-1", "fluid-2", "check-fluids")).toBe(true);
  expect(worked.state.ledger).toEqual([]);
  expect(usedOf(worked)).toEqual(expect.arrayContaining(["check-fluid-1", "check-fluid-2", "deionised-water"]));
  const damp = await workAndSign(ada, "analyser", "chemistry-analyser-weekly", day(7), {
    notOk: ["dry", "pads"],
    worn: { "pads-new": ["right-2"] },
    answers: { qc: "held" },
  });
  expect(must(must(damp.state.steps["dry-on"]).timer).verdict).toBe("in");
  expect(damp.state.parts.map((part) => part.slot)).toEqual(["right-2"]);
  expect(shownSteps(damp.state)).toEqual(expect.arrayContaining(["pads-service", "qc-service"]));
});

it("13 ICP: a look makes the cleaning due; burn-out by default, acid into water; tubing relaxed after the proof", async () => {
  const look = await workAndSign(ada, "icp-oil", "icp-spectrometer-daily", NOW, {
    readings: { "carbon-places": [2] },
    notOk: ["tubing"],
  });
  expect(look.state.parts.map((part) => part.slot)).toEqual(["sample", "drain"]);
  expect(inOrder(look, "check", "relax")).toBe(true);
  expect(await duty("icp-oil", "icp-spectrometer-carbon")).toMatchObject({ state: "due", dueOn: "2026-06-10" });
  // Water samples ask for no daily look at the torch.
  const aqueous = await workAndSign(ada, "icp", "icp-spectrometer-daily", NOW, {
    readings: { "intensity-of-own": [78] },
  });
  expect(shownSteps(aqueous.state)).not.toContain("carbon");
  expect(await duty("icp", "icp-spectrometer-windows")).toMatchObject({ dueOn: "2026-06-10", state: "due" });
  const burnt = await workAndSign(ada, "icp-oil", "icp-spectrometer-carbon", NOW, { rounds: 2 });
  expect(must(burnt.state.steps.school).answer).toBe("furnace");
  expect(usedOf(burnt)).toEqual([]);
  expect(shownSteps(burnt.state)).not.toContain("acid-soak");
  expect(inOrder(burnt, "gate-cold-in-1", "torch-out", "burn-out", "together", "torch-in", "prove", "relax")).toBe(
    true,
  );
  expect((await duty("icp-oil", "icp-spectrometer-carbon", day(1))).state).toBe("later");
  const soaked = await workAndSign(ada, "icp-oil", "icp-spectrometer-carbon", day(1), {
    answers: { school: "acid", again: "yes" },
    notOk: ["glass"],
  });
  expect(shownSteps(soaked.state)).not.toContain("furnace");
  expect(must(soaked.state.steps.bath).mixed).toMatchObject({ amounts: [{ item: "acid-stock" }, { item: "water" }] });
  expect(shownSteps(soaked.state)).toContain("settings");
  expect(soaked.state.parts.map((part) => part.item)).toEqual(["torch"]);
});

it("14 oven: the weekly holds the daily, isolated once; order of ducts; off its dial it is compensated until calibrated", async () => {
  const worked = await workAndSign(ada, "oven", "conveyor-oven-weekly", NOW, {
    readings: { "belt-time": [313, 319] },
  });
  expect(shownSteps(worked.state)).toEqual(expect.arrayContaining(["daily-brush", "daily-belt-runs"]));
  expect(shownSteps(worked.state).filter((id) => id.startsWith("gate-isolated"))).toHaveLength(2);
  expect(inOrder(worked, "daily-brush", "conveyor-out", "upper-ducts-out", "upper-baffle-out")).toBe(true);
  expect(inOrder(worked, "upper-baffle-out", "lower-ducts-out", "lower-baffle-out", "lower-in", "upper-in")).toBe(true);
  expect(inOrder(worked, "ducts-soak", "ducts-together", "lower-in", "conveyor-in", "preheat", "bake")).toBe(true);
  // Mean 316 s against 285 to 315, though one of the runs is within.
  expect(must(worked.state.steps["belt-time"]).answer).toBe("high");
  expect(shownSteps(worked.state)).toEqual(expect.arrayContaining(["compensate", "calibration"]));
  expect((await duty("oven", "conveyor-oven-daily")).dueOn).toBe("2026-06-11");
  const good = await workAndSign(ada, "oven", "conveyor-oven-weekly", day(7), {
    readings: { "belt-time": [300, 304] },
  });
  expect(shownSteps(good.state)).not.toContain("compensate");
});

it("15 soft serve: missed, it stops; all lubricant off at the strip, fresh at the refit on the next open day; rings on finding", async () => {
  expect((await duty("soft-serve", "soft-serve-freezer-14-day", day(6))).state).toBe("stopped");
  // Signed on a Friday: the next open day is Monday.
  const strip = await workAndSign(ada, "soft-serve", "soft-serve-freezer-14-day", day(9));
  expect(usedOf(strip)).toEqual(["sanitiser-chlorine"]);
  expect(strip.state.parts).toEqual([]);
  expect(strip.state.ledger.reduce((sum, one) => sum + one.count, 0)).toBe(30);
  expect(inOrder(strip, "gate-cycle-over-in-1", "drain", "rinse-drain", "gate-isolated-in-1", "front-out")).toBe(true);
  expect(inOrder(strip, "pans-out", "pans", "brush-all", "lay-out", "counted")).toBe(true);
  expect((await duty("soft-serve", "soft-serve-freezer-14-day", day(9))).state).toBe("later");
  expect((await duty("soft-serve", "soft-serve-freezer-reassembly", day(9))).dueOn).toBe("2026-06-22");
  const refit = await workAndSign(ada, "soft-serve", "soft-serve-freezer-reassembly", day(12));
  expect(must(refit.state.begins).states).toEqual(["isolated"]);
  expect(refit.state.ledger).toEqual([]);
  expect(refit.state.parts).toEqual([]);
  expect(usedOf(refit)).toEqual(["food-lubricant", "sanitiser-chlorine"]);
  // Locked since Friday: no gate into it, one out of it before anything runs.
  expect(shownSteps(refit.state)).not.toContain("gate-isolated-in-1");
  expect(inOrder(refit, "dry", "shaft-in", "hopper-in", "gate-isolated-out-1", "solution", "contact", "first")).toBe(
    true,
  );
  // Every sheet has its gate against the hot cycle.
  const opening = await workAndSign(ada, "soft-serve", "soft-serve-freezer-opening", day(13));
  for (const one of [strip, refit, opening]) expect(shownSteps(one.state)).toContain("gate-cycle-over-in-1");
});

it("15 soft serve with two sides: twice the parts, all of them back; a set of rings for the side that needs it", async () => {
  const strip = await workAndSign(ada, "soft-serve-two", "soft-serve-freezer-14-day", day(9), {
    answers: { pans: "much" },
    notOk: ["seals"],
  });
  const rings = strip.state.ledger.filter((one) => one.item.endsWith("O-ring"));
  expect(rings.reduce((sum, one) => sum + one.count, 0)).toBe(12);
  expect(strip.state.ledger.map((one) => one.item)).toContain("rear drip pan");
  expect(strip.state.findings.map((one) => one.severity)).toEqual(["minor"]);
  const refit = await workAndSign(ada, "soft-serve-two", "soft-serve-freezer-reassembly", day(12), {
    notOk: ["rings"],
    worn: { "rings-new-two": ["side-2"] },
  });
  expect(refit.state.ledger).toEqual([]);
  expect(refit.state.parts.map((part) => [part.item, part.slot])).toEqual([["o-ring-kit", "side-2"]]);
});

it("16 card printer: card run powered before head work off; a stick serves twice; the ribbon brings its sleeve", async () => {
  const { machineId } = await duty("cards", "card-printer-ribbon");
  const lefts: number[] = [];
  const news: boolean[] = [];
  for (let n = 0; n < 3; n++) {
    await logOccurrence(ada, machineId, { event: "ribbon-replaced", on: null, note: "" }, day(n));
    const worked = await workAndSign(ada, "cards", "card-printer-ribbon", day(n), {
      answers: { sleeve: n === 2 ? "kit" : "ribbon" },
    });
    expect(must(worked.state.steps.strokes).counted).toBe(3);
    expect(inOrder(worked, "cards-out", "load", "runs", "gate-off-in-1", "strokes", "swab", "gate-off-out-1")).toBe(
      true,
    );
    const counts = new Map(worked.state.consumables.map((one) => [one.item, one.qty]));
    expect(counts.get("alcohol-card")).toBe(1);
    expect(counts.has("roller-sleeve")).toBe(n === 2);
    news.push(must(worked.state.parts[0]).turnedUsesLeft === null);
    lefts.push(must((await slotsOf(machineId))["kit-stick"]).usesLeft);
  }
  expect(news).toEqual([true, false, true]);
  expect(lefts).toEqual([2, 1, 2]);
  const plain = await workAndSign(ada, "cards", "card-printer-fan", day(3));
  expect(shownSteps(plain.state)).not.toContain("filter-out");
  const fan = await workAndSign(ada, "cards-fan", "card-printer-fan", day(3), { notOk: ["dry-look"] });
  expect(inOrder(fan, "filter-out", "rinse", "dry", "dry-look", "dry-on", "filter-in", "gate-off-out-1", "air")).toBe(
    true,
  );
});

it("17 wash tunnel: oil first at three months, then at six; thickness at the same six points", async () => {
  expect((await duty("tunnel", "wash-tunnel-conveyor-oil")).dueOn).toBe("2026-09-01");
  await workAndSign(ada, "tunnel", "wash-tunnel-conveyor-oil", day(82));
  expect((await duty("tunnel", "wash-tunnel-conveyor-oil", day(82))).dueOn).toBe("2027-02-28");
  const thick = [13.4, 13.1, 13.3, 13.5, 13.2, 13.4];
  const { sheetId } = await workAndSign(ada, "tunnel", "wash-tunnel-conveyor-half-year", day(82), {
    readings: { "belt-thickness": thick },
  });
  const values = await getDb().select<{ value: number }>(
    "SELECT value FROM readings WHERE sheet_id = :sheetId AND reading = 'belt-thickness' ORDER BY id",
    { sheetId },
  );
  expect(values.map((row) => row.value)).toEqual(thick);
});

it("17 wash tunnel: stops tried with power, then locked once for day, week and month; clamped before it is let go", async () => {
  const worked = await workAndSign(ada, "tunnel", "wash-tunnel-conveyor-monthly", day(1));
  const stops = must(worked.state.steps["weekly-daily-stops"]);
  expect(stops.results?.map((one) => one.function)).toEqual([
    "entrance-driver",
    "entrance-passenger",
    "exit-driver",
    "exit-passenger",
    "stand",
  ]);
  expect(inOrder(worked, "weekly-daily-stops", "gate-isolated-in-1", "weekly-daily-debris", "weekly-trays")).toBe(true);
  expect(inOrder(worked, "no-return", "drive-driver-open", "gate-clamped-in-1", "drive-driver-off", "sprockets")).toBe(
    true,
  );
  expect(inOrder(worked, "below", "slots", "top", "drip-trays", "plates", "drive-driver-join")).toBe(true);
  // One end is joined before the other is opened; clamps off before water, locked again before the gratings.
  expect(
    inOrder(worked, "drive-passenger-join", "idler-driver-open", "manifolds", "gate-clamped-out-1", "nozzles"),
  ).toBe(true);
  expect(
    inOrder(
      worked,
      "nozzles",
      "gate-isolated-in-2",
      "inside",
      "gate-gratings-off-out-1",
      "gate-isolated-out-2",
      "cars",
    ),
  ).toBe(true);
  expect(must(worked.state.steps.plates).readings).toHaveLength(6);
  for (const [id, on] of [
    ["wash-tunnel-conveyor-weekly", "2026-06-18"],
    ["wash-tunnel-conveyor-daily", "2026-06-12"],
  ] as const)
    expect((await duty("tunnel", id, day(1))).dueOn).toBe(on);
  const broken = await workAndSign(ada, "tunnel", "wash-tunnel-conveyor-daily", day(2), { notOk: ["links"] });
  expect(must(broken.state.findings[0]).severity).toBe("unsafe");
  expect(await held("tunnel", "wash-tunnel-conveyor-daily")).toHaveLength(1);
});

it("18 sweeper: one side broom worn renews both; a broom exchange comes before the mark, which is made anew until it is right", async () => {
  const { state } = await workAndSign(ada, "sweeper", "ride-on-sweeper-daily", NOW, {
    readings: { "side-broom-bristle": [2.4, 3], "polish-mark": [1.9, 0.7, 1.3] },
  });
  expect(state.parts.map((part) => part.slot)).toEqual(["side-left", "side-right"]);
  expect(must(state.steps["polish-mark"]).readings.map((one) => one.verdict)).toEqual(["high", "low", "in"]);
  expect(must(state.steps["polish-mark"]).readings.map((one) => one.stage)).toEqual(["as-found", "as-left", "as-left"]);
  const worn = await workAndSign(ada, "sweeper", "ride-on-sweeper-daily", day(1), {
    readings: { "main-broom-bristle": [1.9, 2.1, 2.2] },
  });
  expect(inOrder(worn, "main-bristle", "main-new", "gate-on-in-1", "polish-mark")).toBe(true);
  const broom = await workAndSign(ada, "sweeper", "ride-on-sweeper-main-broom", day(1));
  expect(inOrder(broom, "gate-parked-in-1", "door-off", "main-new", "door-on", "gate-on-in-1", "polish-mark")).toBe(
    true,
  );
  const wet = await workAndSign(ada, "sweeper", "ride-on-sweeper-weekly", day(1), {
    answers: { filter: "wet" },
    notOk: ["battery"],
  });
  expect(usedOf(wet)).toEqual(["distilled-water"]);
  expect(shownSteps(wet.state)).toContain("dry");
  expect(inOrder(wet, "fan-apart", "cover-off", "filter-out", "filter-in", "cover-on", "fan-on", "fan-runs")).toBe(
    true,
  );
  const packed = await workAndSign(ada, "sweeper", "ride-on-sweeper-weekly", day(8), { answers: { filter: "bad" } });
  expect(packed.state.parts.map((part) => part.item)).toEqual(["panel-filter"]);
});

it("19 dental mill: drained on Friday, open over the weekend, refilled on Monday, additive before water", async () => {
  const friday = day(2);
  const drain = await workAndSign(ada, "mill", "dental-mill-drain", friday);
  expect(drain.state.ledger.map((one) => one.item)).toEqual(["tank", "tank cap", "tank filter"]);
  expect((await duty("mill", "dental-mill-refill", friday)).dueOn).toBe("2026-06-15");
  const refill = await workAndSign(ada, "mill", "dental-mill-refill", day(5), {
    readings: { "tank-distilled-water": [2925] },
  });
  expect(must(refill.state.begins).off?.map((one) => one.item)).toEqual(["tank", "tank cap", "tank filter"]);
  expect(refill.state.ledger).toEqual([]);
  expect(refill.state.consumables.map((one) => [one.item, one.qty])).toEqual([["mill-additive", 75]]);
  expect(inOrder(refill, "rinse", "look", "filter-in", "additive", "distilled", "cap", "tank-in", "run")).toBe(true);
  expect((await duty("mill", "dental-mill-drain", friday)).dueOn).toBe("2026-06-19");
  const ball = await workAndSign(ada, "mill", "dental-mill-trackball", day(5), { rounds: 3 });
  expect(ball.state.rounds).toMatchObject({ right: 3 });
  const cracked = await workAndSign(ada, "mill", "dental-mill-daily", day(5), { notOk: ["door", "puddle"] });
  expect(cracked.state.findings.map((one) => one.severity).sort()).toEqual(["major", "unsafe"]);
});

it("has duties for every machine of every family", async () => {
  const rows = await getDb().select<{ id: string; family: string }>("SELECT id, family FROM machines");
  expect(new Set(rows.map((row) => row.family)).size).toBe(19);
  const shipped = await getDb().select<{ family: string; ids: number }>(
    "SELECT family, COUNT(DISTINCT id) AS ids FROM procedures GROUP BY family",
  );
  // All that ships for its family, and what the sheets before have left.
  for (const { id, family } of rows)
    expect((await listMachineDuties(id, NOW)).length).toBeGreaterThanOrEqual(
      must(shipped.find((one) => one.family === family)).ids,
    );
});
