import { addedMinutesAYear, daysBetweenServices, servicesAYear, type Trigger } from "../index";

const months: Trigger = { kind: "calendar", every: 3, unit: "month", basis: "completion" };
const meter: Trigger = { kind: "meter", meter: "running-hours", every: 100, basis: "completion" };

describe("how often a duty comes", () => {
  it("is as often as the first of its rules, a meter's by how much the machine is used", () => {
    const rules = { triggers: [months, meter] };
    expect(daysBetweenServices(rules, { "running-hours": 2 })).toBe(50);
    expect(daysBetweenServices(rules, { "running-hours": null })).toBeCloseTo(91.31, 2);
    expect(daysBetweenServices({ ...rules, intervalFactor: 0.5 }, { "running-hours": 2 })).toBe(25);
    expect(daysBetweenServices({ triggers: [meter] }, {})).toBeNull();
    expect(daysBetweenServices({ triggers: [{ kind: "event", event: "run" }] }, {})).toBeNull();
  });

  it("of a year is the calendar's own: 97 leap days in 400 years", () => {
    expect(servicesAYear(1) * 400).toBeCloseTo(400 * 365 + 97, 6);
    expect(servicesAYear(365.2425 / 4)).toBeCloseTo(4, 12);
    expect(() => servicesAYear(0)).toThrow(/days/);
  });

  it("makes a year's work more, less, or the same", () => {
    expect(addedMinutesAYear(60, 365.2425 / 4, 365.2425 / 6)).toBeCloseTo(120, 9);
    expect(addedMinutesAYear(60, 365.2425 / 6, 365.2425 / 4)).toBeCloseTo(-120, 9);
    expect(addedMinutesAYear(60, 90, 90)).toBe(0);
    expect(() => addedMinutesAYear(-1, 90, 90)).toThrow(/minutes/);
  });
});
