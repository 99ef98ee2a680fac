import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import type { FaultGuide } from "../../core/index";
import { allShipped } from "../../core/sheet/testing/shipped";
import { ITEMS, KITS } from "./stores-story";

/** Keys that items of protective equipment and tools have, made of their names. */
const OF_A_NAME = /^(wear|tool)-/;

const GUIDES = join(process.cwd(), "fault-guides");
const shippedGuides = (): FaultGuide[] =>
  readdirSync(GUIDES)
    .filter((file) => file.endsWith(".json"))
    .map((file) => JSON.parse(readFileSync(join(GUIDES, file), "utf8")) as FaultGuide);

it("stocks what the shipped sheets use and fit and kits hold besides, all of it and nothing else", () => {
  const wanted = new Set([
    ...[...allShipped(), ...shippedGuides()].flatMap(({ materials, parts }) =>
      [...materials, ...parts].map((one) => one.item),
    ),
    ...KITS.flatMap(({ items }) => Object.keys(items)),
  ]);
  const stocked = ITEMS.map((one) => one.id);
  expect(stocked.filter((id) => !wanted.has(id) && !OF_A_NAME.test(id))).toEqual([]);
  expect([...wanted].filter((id) => !stocked.includes(id) && !OF_A_NAME.test(id))).toEqual([]);
});
