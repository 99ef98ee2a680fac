import { must } from "../../core/must";
import { allShipped, whole } from "../../core/sheet/testing/shipped";
import { pastYear } from "./history";

const written = allShipped();
const dutiesOf = (family: string) =>
  written.filter((one) => one.family === family).map((one) => ({ dutyId: one.id, procedure: whole(one, written) }));
const year = (family: string, seed = 7) => pastYear({ id: "m", facts: { options: [] }, seed }, dutiesOf(family));

it("is the same for the same seed and another for another", () => {
  expect(year("icp-spectrometer")).toEqual(year("icp-spectrometer"));
  expect(year("icp-spectrometer").map((one) => one.daysAgo)).not.toEqual(
    year("icp-spectrometer", 8).map((one) => one.daysAgo),
  );
});

it("runs from a year ago to yesterday, in order", () => {
  for (const family of ["conveyor-oven", "slide-stainer", "ride-on-scrubber"]) {
    const days = year(family).map((one) => one.daysAgo);
    expect(days.length).toBeGreaterThan(10);
    expect(days).toEqual([...days].sort((a, b) => b - a));
    expect(Math.min(...days)).toBeGreaterThanOrEqual(1);
    expect(Math.max(...days)).toBeLessThanOrEqual(380);
  }
});

it("does a second half on the day after its first", () => {
  const sheets = year("dental-mill");
  const days = (id: string): number[] => sheets.filter((one) => one.procedure.id === id).map((one) => one.daysAgo);
  expect(days("dental-mill-refill")).toEqual(
    days("dental-mill-drain")
      .map((day) => day - 1)
      .filter((day) => day > 0),
  );
});

it("lets readings creep towards their limit and puts them right when they pass it", () => {
  const values = year("conveyor-oven").flatMap((one) => one.script.readings?.["belt-time"]?.[0] ?? []);
  expect(values.length).toBeGreaterThan(8);
  // The belt gets slower from one week to the next, but where it was set.
  const slower = values.slice(1).filter((value, i) => value > must(values[i]) - 3).length;
  expect(slower).toBeGreaterThan(values.length - 4);
});

it("keeps meters together with what the story tells of them", () => {
  const told = {
    "running-hours": [
      { daysAgo: 26, value: 1232 },
      { daysAgo: 1, value: 1253 },
    ],
  };
  const sheets = pastYear({ id: "m", facts: { options: [] }, seed: 3, told }, dutiesOf("ride-on-sweeper"));
  const hours = sheets.flatMap((one) =>
    one.script.readings?.["running-hours"]
      ? [[one.daysAgo, must(one.script.readings["running-hours"][0])] as const]
      : [],
  );
  for (const [daysAgo, value] of hours) {
    if (daysAgo >= 26) expect(value).toBeLessThanOrEqual(1232);
    expect(value).toBeLessThanOrEqual(1254);
  }
  expect(hours.map(([, value]) => value)).toEqual([...hours.map(([, value]) => value)].sort((a, b) => a - b));
});

it("lets a duty slip where the story wants it", () => {
  const duties = dutiesOf("soft-serve-freezer").map((one) => ({
    ...one,
    lastDone: one.dutyId === "soft-serve-freezer-14-day" ? 17 : undefined,
  }));
  const sheets = pastYear({ id: "m", facts: { options: [] }, seed: 3 }, duties);
  expect(
    Math.min(...sheets.filter((one) => one.procedure.id === "soft-serve-freezer-14-day").map((one) => one.daysAgo)),
  ).toBe(17);
});
