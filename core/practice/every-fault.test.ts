import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { type FaultGuide, isMeant } from "../faults/index";
import { byTheGuide } from "./best-way";
import { drawFault } from "./draw-fault";

const FOLDER = join(__dirname, "../../fault-guides");
const guides = readdirSync(FOLDER)
  .filter((name) => name.endsWith(".json"))
  .map((name) => JSON.parse(readFileSync(join(FOLDER, name), "utf8")) as FaultGuide);
const SEEDS = process.env.HOUND_SOAK ? 200 : 6;

describe.each(guides.map((guide) => [guide.family, guide] as const))("a practice machine: %s", (_family, guide) => {
  const faults = guide.symptoms.flatMap(({ id, causes }) => causes.map(({ cause }) => ({ symptom: id, cause })));

  it.each(faults)("$symptom: $cause is solved by the guide alone, whatever the seed", (wanted) => {
    for (let seed = 1; seed <= SEEDS; seed++) {
      const fault = drawFault(guide, seed, wanted);
      expect(fault).toMatchObject(wanted);
      expect(isMeant(guide.causes.find((one) => one.id === wanted.cause)?.on, fault.options)).toBe(true);
      const { practice } = byTheGuide(guide, fault);
      const { isSolved, unsafe, forgotten, named } = practice;
      expect({ seed, isSolved, unsafe, forgotten, last: named.at(-1) }).toEqual({
        seed,
        isSolved: true,
        unsafe: [],
        forgotten: [],
        last: wanted.cause,
      });
    }
  });
});
