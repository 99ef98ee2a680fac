import { faultOf, sent } from "~/testing/sent";

import {
  daySettingsSchema,
  depotSchema,
  dutiesSchema,
  emergencySchema,
  fetchSchema,
  handOverSchema,
  orderSchema,
  tickSchema,
} from "./day-schemas";

const A = "0198f0aa-1111-7222-8333-444455556666";
const B = "0198f0aa-1111-7222-8333-444455557777";
const GONE = "This choice is not valid any more. Load the page again.";

it("an order of sites comes as one text", () => {
  expect(sent(orderSchema, { order: `${A} ${B} ` }).value).toEqual({ order: [A, B] });
  expect(sent(orderSchema, {}).faults).toEqual({ order: GONE });
  expect(sent(orderSchema, { order: `${A} first` }).faults).toEqual({ "order[1]": GONE });
  expect(sent(orderSchema, { order: Array.from({ length: 61 }, () => A).join(" ") }).faults).toEqual({
    order: "A day has fewer sites.",
  });
});

it("duties are chosen, at least one of them", () => {
  expect(sent(dutiesSchema, { duty: A }).value).toEqual({ duty: [A] });
  expect(sent(dutiesSchema, { duty: [A, B] }).value).toEqual({ duty: [A, B] });
  expect(sent(dutiesSchema, {}).faults).toEqual({ duty: "Choose at least one duty." });
  expect(sent(handOverSchema, {}).faults).toEqual({ to: "Choose somebody." });
});

describe("the hours of a day", () => {
  const right = { start: "07:00", end: "16:00", technicians: "1" };

  it("end after they begin, with somebody to work in them", () => {
    expect(sent(daySettingsSchema, right).value).toEqual({ start: "07:00", end: "16:00", technicians: 1 });
  });

  it.each([
    ["end", "07:00", "The day ends after it begins."],
    ["end", "06:59", "The day ends after it begins."],
    ["end", "24:00", "Write a time such as 07:30."],
    ["start", "7", "Write a time such as 07:30."],
    ["start", "", "Give a time."],
    ["technicians", "0", "At least 1."],
    ["technicians", "5", "At most 4."],
    ["technicians", "two", "Type a number."],
  ])("%s %j: %s", (field, value, words) => {
    expect(faultOf(daySettingsSchema, right, field, value)).toBe(words);
  });
});

describe("an emergency call", () => {
  const right = { tag: "hh-1001", title: "No ice", minutes: "90" };

  it("names the machine, what is wrong and how long it may take", () => {
    expect(sent(emergencySchema, right).value).toEqual({ tag: "HH-1001", title: "No ice", minutes: 90 });
    expect(sent(emergencySchema, {}).faults).toEqual({
      tag: "Type or scan the machine's tag.",
      title: "Say what is wrong.",
      minutes: "Type minutes.",
    });
  });

  it.each([
    ["minutes", "4", "At least 5."],
    ["minutes", "481", "At most 480."],
    ["minutes", "1.5", "Whole numbers only."],
    ["tag", "HH 1001", GONE],
  ])("%s %j: %s", (field, value, words) => {
    expect(faultOf(emergencySchema, right, field, value)).toBe(words);
  });
});

it("what is fetched is something, from somewhere, more than nothing", () => {
  const right = { item: "chain-oil", from: A, to: B, qty: "0,5" };
  expect(sent(fetchSchema, right).value).toMatchObject({ qty: 0.5 });
  expect(faultOf(fetchSchema, right, "qty", "0")).toBe("More than nothing.");
  expect(faultOf(fetchSchema, right, "qty", "10000001")).toBe("That is more than the books can hold.");
  expect(faultOf(fetchSchema, right, "from", "")).toBe("Choose a place.");
});

it("a tick is on a day that exists, and off unless it says yes", () => {
  const right = { on: "2026-11-27", line: "chain-oil" };
  expect(sent(tickSchema, right).value).toEqual({ on: right.on, line: ["chain-oil"], ticked: "no" });
  expect(sent(tickSchema, { ...right, ticked: "yes" }).value).toMatchObject({ ticked: "yes" });
  expect(sent(tickSchema, { ...right, ticked: "true" }).faults).toHaveProperty("ticked");
  expect(sent(tickSchema, { line: "x" }).faults).toEqual({ on: "The day is missing. Load the page again." });
});

it("the depot lies somewhere on earth", () => {
  const right = { name: "Van yard", timeZone: "Atlantic/Azores", latitude: "38.53", longitude: "-28,62" };
  expect(sent(depotSchema, right).value).toMatchObject({ latitude: 38.53, longitude: -28.62 });
  expect(faultOf(depotSchema, right, "latitude", "91")).toBe("Latitude is −90 to 90.");
  expect(faultOf(depotSchema, right, "longitude", "")).toBe("Type degrees, such as -28.62.");
});
