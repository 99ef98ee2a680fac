import { readFileSync } from "node:fs";
import { join } from "node:path";

import { ACCESS, allowedFor } from "./access";

/** The routes as routes.ts lists them. */
const paths = [...readFileSync(join(process.cwd(), "app/routes.ts"), "utf8").matchAll(/route\("([^"]+)"/g)].map(
  (match) => `/${match[1]}`,
);

it("says for every route who may call it, and lists nothing else", () => {
  expect(paths.length).toBeGreaterThan(15);
  expect(ACCESS.map(([pattern]) => pattern).sort()).toEqual(["/", ...paths].sort());
});

it("lets nobody to what is not listed", () => {
  expect(allowedFor("/somewhere")).toBeNull();
  expect(allowedFor("/round/else")).toBeNull();
});

it("judges data requests and trailing slashes like the page", () => {
  expect(allowedFor("/book/people.data")).toEqual(["lead"]);
  expect(allowedFor("/book/people/")).toEqual(["lead"]);
  expect(allowedFor("/_root.data")).toEqual(["technician", "lead"]);
  expect(allowedFor("/sign-in")).toBe("everyone");
});

it("takes the fixed page before the one with a parameter", () => {
  expect(allowedFor("/machines/import")).toEqual(["lead"]);
  expect(allowedFor("/machines/0190a000-0000-7000-8000-000000000000")).toEqual(["technician", "lead"]);
});
