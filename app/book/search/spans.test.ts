import { spansAt } from "./spans";

it.each([
  ["2026-11-29", ["November 2026", "October 2026", "Jul to Dec 2026", "Jan to Jun 2026", "2026", "2025"]],
  ["2026-01-05", ["January 2026", "December 2025", "Jan to Jun 2026", "Jul to Dec 2025", "2026", "2025"]],
  ["2026-07-01", ["July 2026", "June 2026", "Jul to Dec 2026", "Jan to Jun 2026", "2026", "2025"]],
])("offers months, half years and years seen from %s", (today, names) => {
  expect(spansAt(today).map((one) => one.name)).toEqual(names);
});

it("says first and last days that exist", () => {
  const [march, february] = spansAt("2028-03-31");
  expect(march).toEqual({ name: "March 2028", from: "2028-03-01", to: "2028-03-31" });
  expect(february).toEqual({ name: "February 2028", from: "2028-02-01", to: "2028-02-29" });
});
