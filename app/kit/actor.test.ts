import { type Actor, whyNotWork } from "./actor";

const actor = (...authorisations: Actor["authorisations"]): Actor => ({
  id: "a",
  name: "A",
  role: "technician",
  authorisations,
});
const gas = { who: "licensed", authorisation: "licensed-gas" } as const;

it("lets a technician do operator and technician duties", () => {
  expect(whyNotWork(actor(), { who: "operator", authorisation: null }, "2026-01-01")).toBeNull();
  expect(whyNotWork(actor(), { who: "technician", authorisation: null }, "2026-01-01")).toBeNull();
});
it("wants the named authorisation, up to and including its last day", () => {
  expect(whyNotWork(actor(), gas, "2026-01-01")).toMatch(/authorised for "licensed-gas"/);
  expect(whyNotWork(actor({ kind: "licensed", expiresOn: null }), gas, "2026-01-01")).not.toBeNull();
  expect(whyNotWork(actor({ kind: "licensed-gas", expiresOn: "2026-01-01" }), gas, "2026-01-01")).toBeNull();
  expect(whyNotWork(actor({ kind: "licensed-gas", expiresOn: "2025-12-31" }), gas, "2026-01-01")).toMatch(/expired/);
  expect(
    whyNotWork(
      actor({ kind: "licensed-gas", expiresOn: "2025-12-31" }, { kind: "licensed-gas", expiresOn: null }),
      gas,
      "2026-01-01",
    ),
  ).toBeNull();
});
it("wants the general one where licensed work names none", () => {
  expect(
    whyNotWork(actor({ kind: "licensed", expiresOn: null }), { who: "licensed", authorisation: null }, "2026-01-01"),
  ).toBeNull();
});
