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
  expect(allowedFor("/machines/%69mport")).toBeNull();
  expect(allowedFor("/constructor")).toBeNull();
});

it("says it by the route that was matched", () => {
  expect(allowedFor("/sign-in")).toBe("everyone");
  expect(allowedFor("/machines/import")).toEqual(["lead"]);
  expect(allowedFor("/machines/:machineId")).toEqual(["technician", "lead"]);
});
