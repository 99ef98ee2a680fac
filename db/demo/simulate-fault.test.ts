import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { CAUSE_STEP, type FaultGuide, foldRun, guideProcedure, missingSteps, UNKNOWN_CAUSE } from "../../core/index";
import { must } from "../../core/must";
import { workedSheet } from "../../core/sheet/testing/worked";

const FOLDER = join(process.cwd(), "fault-guides");
const guides = readdirSync(FOLDER)
  .filter((file) => file.endsWith(".json"))
  .map((file) => JSON.parse(readFileSync(join(FOLDER, file), "utf8")) as FaultGuide);

/** What a sheet found that is worked to its end, and what is missing there. */
function worked(guide: FaultGuide, symptom: string, cause: string | undefined) {
  const procedure = guideProcedure(guide);
  const on = guide.causes.find((one) => one.id === cause)?.on ?? [];
  const options = on.flatMap(({ option, fitted }) => (fitted ? [option] : []));
  const script = { answers: { symptom }, ...(cause === undefined ? {} : { cause }) };
  const state = foldRun(procedure, workedSheet(procedure, { options, script, usesLeft: 2 }));
  return {
    found: state.steps[CAUSE_STEP]?.answer,
    missing: missingSteps(procedure, state, { options }).map((one) => one.title),
  };
}

it.each(guides.map((one) => [one.family, one] as const))(
  "%s: what is wrong is found, and its sheet ends",
  (_, guide) => {
    for (const { id, causes } of guide.symptoms) {
      const { cause } = must(causes[0]);
      expect({ id, ...worked(guide, id, cause) }).toEqual({ id, found: cause, missing: [] });
      expect({ id, ...worked(guide, id, undefined) }).toEqual({ id, found: UNKNOWN_CAUSE, missing: [] });
    }
  },
);
