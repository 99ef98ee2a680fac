import {
  CAUSE_STEP,
  type FindStep,
  GuideSearch,
  isMeant,
  pareto,
  poolCauses,
  SYMPTOM_STEP,
  typicalChances,
  UNKNOWN_CAUSE,
} from "@core";
import { getDb } from "@db";

import { Refusal } from "~/kit/refusal";
import { csvText } from "~/kit/server/csv-table.server";
import { guideOf, shippedGuides } from "~/procedures/guides/guides.server";
import { causeName } from "~/sheet/find/find-view";

import { codesOf } from "./codes.server";
import * as sql from "./faults.sql";

/** So many of a machine's faults are listed. */
const LISTED = 30;

export interface SymptomView {
  id: string;
  says: string;
  tell: string | null;
  /** Causes with their learned chances, the likeliest first. */
  causes: { id: string; name: string; chance: number; low: number; high: number; n: number }[];
  /** Expected minutes to the cause, and the first check. */
  minutes: number;
  because: string[];
  first: string | null;
}

/** What can be wrong with a machine, and what was found on it before. */
export async function machineFaults(machineId: string, reportId: string | null) {
  const { models } = getDb();
  const machine = await models.Machine.findByPk(machineId, {
    attributes: ["id", "name", "tag", "family", "model", "options", "siteId", "retiredOn"],
    raw: true,
  });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine does not exist.");
  const [guide, codes, past, open, report] = await Promise.all([
    guideOf(machine.family),
    codesOf(machine.family, machine.model),
    sql.faultsOfMachine({ machineId, limit: LISTED }),
    sql.openFaults({ machineId }),
    reportId
      ? models.ProblemReport.findOne({
          attributes: ["id", "text", "name", "stopped"],
          where: { id: reportId, machineId, closedAt: null },
          raw: true,
        })
      : null,
  ]);
  const symptoms = (guide?.symptoms ?? [])
    .filter((one) => isMeant(one.on, machine.options))
    .map(({ id, says, also = [] }) => ({ id, says, also }));
  return {
    machine,
    report,
    symptoms,
    codes: codes.map((one) => ({
      ...one,
      symptomSays: symptoms.find(({ id }) => id === one.symptom)?.says ?? null,
    })),
    open,
    past: past.map((one) => ({
      ...one,
      symptomName: guide?.symptoms.find(({ id }) => id === one.symptom)?.says ?? one.symptom,
      causeName: guide ? causeName(guide, one.cause) : one.cause,
    })),
  };
}

/** Every family with a guide, those that ship and are not used yet among them. */
export async function listGuides(): Promise<{ family: string; title: string }[]> {
  const used = await sql.newestGuides();
  const more = shippedGuides()
    .filter(({ family }) => !used.some((one) => one.family === family))
    .map(({ family, title }) => ({ family, title }));
  return [...used, ...more].sort((a, b) => a.title.localeCompare(b.title));
}

/** A family's guide with what was learned of each symptom's causes, whatever options a machine has; the likeliest first. */
async function learnedGuide(family: string) {
  const guide = await guideOf(family);
  if (!guide) throw new Refusal(404, "no-such-guide", "There is no fault guide for this family.");
  const found = await sql.causesOfFamily({ family });
  const learned = guide.symptoms.map((symptom) => {
    const chances = poolCauses({
      typical: typicalChances(symptom),
      others: new Map(found.flatMap(({ symptom: id, cause, n }) => (id === symptom.id ? [[cause, n]] : []))),
      own: new Map(),
    });
    const causes = Object.entries(chances)
      .map(([id, { weight, ...one }]) => ({
        ...{ id, chance: weight, ...one },
        name: id === UNKNOWN_CAUSE ? "Something else" : causeName(guide, id),
      }))
      .sort((a, b) => b.chance - a.chance);
    return { symptom, chances, causes };
  });
  return { guide, found, learned };
}

/** A family's guide as its page shows it, and the causes that were found most. */
export async function guideView(family: string) {
  const { guide, found, learned } = await learnedGuide(family);
  const step: FindStep = { ...guide, id: CAUSE_STEP, kind: "find", symptom: SYMPTOM_STEP };
  const byCause = new Map<string, number>();
  for (const { cause, n } of found) byCause.set(cause, (byCause.get(cause) ?? 0) + n);
  const stateNames = new Map(guide.states.map((state) => [state.id, state.name]));
  return {
    guide: { family, version: guide.version, title: guide.title, summary: guide.summary, hazards: guide.hazards },
    symptoms: learned.map(({ symptom: { id, says, tell = null, on = [] }, chances, causes }): SymptomView => {
      // As long as it takes on a machine with everything that goes with the symptom.
      const without = new Set(on.flatMap(({ option, fitted }) => (fitted ? [] : [option])));
      const options = guide.options.map((one) => one.id).filter((option) => !without.has(option));
      const search = new GuideSearch({ step, states: guide.states, symptom: id, options, learned: chances });
      return {
        ...{ id, says, tell, causes, minutes: search.expectedMinutes, because: search.because },
        first: search.open[0]?.check.title ?? null,
      };
    }),
    checks: guide.checks.map(({ id, title, how, minutes, clear, state = [] }) => ({
      ...{ id, title, how, minutes, clear },
      states: state.map((one) => stateNames.get(one) ?? one),
    })),
    found: pareto([...byCause].map(([id, n]) => ({ id, name: causeName(guide, id), n }))),
  };
}

/** A family's causes by symptom: typical, learned, and how often they were found. */
export async function causesCsv(family: string): Promise<string> {
  const { learned } = await learnedGuide(family);
  const share = (value: number): string => value.toFixed(4);
  return csvText(
    ["symptom", "cause", "chance", "low", "high", "found"],
    learned.flatMap(({ symptom, causes }) =>
      causes.map(({ name, chance, low, high, n }) => [symptom.says, name, ...[chance, low, high].map(share), n]),
    ),
  );
}
