import { must } from "@core";
import { getDb } from "@db";

import { listMachineDuties } from "~/duties/due.server";
import { logOccurrence } from "~/machines/machines.server";
import { closeDatabase } from "~/testing/database";
import { ada, beginFamilies, day, duty, NOW, shownSteps } from "~/testing/families";
import { workAndSign } from "~/testing/sheets";

import { slotsOf } from "./log/sheet-context.server";

/** Each of the families 11 to 19: a sheet worked to the signature, with the rule that is its own. */
beforeAll(beginFamilies);
afterAll(closeDatabase);

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
