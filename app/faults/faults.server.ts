import { type FaultGuide, GuideSearch, isMeant, must, poolCauses, typicalChances, UNKNOWN_CAUSE } from "@core";
import { getDb } from "@db";

import { Refusal } from "~/kit/refusal";
import { csvText } from "~/kit/server/csv-table.server";
import { guideOf, shippedGuides } from "~/procedures/guides/guides.server";

import * as sql from "./faults.sql";

/** So many of a machine's faults are listed. */
const LISTED = 30;

export interface SymptomView {
  id: string;
  says: string;
  also: string[];
  tell: string | null;
  /** Causes with their learned chances, the likeliest first. */
  causes: { id: string; name: string; chance: number; low: number; high: number; n: number }[];
  /** Expected minutes to the cause, and the first check. */
  minutes: number;
  first: string | null;
}

/** What can be wrong with a machine, and what was found on it before. */
export async function machineFaults(machineId: string, reportId: string | null) {
  const { models } = getDb();
  const machine = await models.Machine.findByPk(machineId, {
    attributes: ["id", "name", "tag", "family", "options", "siteId", "retiredOn"],
    raw: true,
  });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine does not exist.");
  const [guide, past, open, report] = await Promise.all([
    guideOf(machine.family),
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
  const name = namesOf(guide);
  return {
    machine,
    report,
    symptoms: (guide?.symptoms ?? [])
      .filter((one) => isMeant(one.on, machine.options))
      .map(({ id, says, also = [] }) => ({ id, says, also })),
    open,
    past: past.map(({ version: _, ...one }) => ({
      ...one,
      symptomName: name.symptom(one.symptom),
      causeName: name.cause(one.cause),
    })),
  };
}

const namesOf = (guide: FaultGuide | null) => ({
  symptom: (id: string): string => guide?.symptoms.find((one) => one.id === id)?.says ?? id,
  cause: (id: string): string =>
    id === UNKNOWN_CAUSE ? "Nothing found" : (guide?.causes.find((one) => one.id === id)?.name ?? id),
});

/** Every family with a guide, those that ship and are not used yet among them. */
export async function listGuides(): Promise<{ family: string; title: string; found: number }[]> {
  const used = await sql.guidesWithCounts();
  const more = shippedGuides()
    .filter(({ family }) => !used.some((one) => one.family === family))
    .map(({ family, title }) => ({ family, title, found: 0 }));
  return [...used, ...more].sort((a, b) => a.title.localeCompare(b.title));
}

/** A family's guide with what was learned: for reading, and as the causes that were found most. */
export async function guideView(family: string, options: readonly string[] = []) {
  const guide = await guideOf(family);
  if (!guide) throw new Refusal(404, "no-such-guide", "There is no fault guide for this family.");
  const found = await sql.causesOfFamily({ family });
  const step = { ...guide, id: "cause", kind: "find" as const, symptom: "symptom" };
  const symptoms = guide.symptoms.map((symptom): SymptomView => {
    const seen = found
      .filter((one) => one.symptom === symptom.id)
      .flatMap((one) => Array.from({ length: one.n }, () => one.cause));
    const learned = poolCauses({ typical: typicalChances(symptom), others: seen, own: [] });
    const weights = Object.fromEntries(Object.entries(learned).map(([id, one]) => [id, one.weight]));
    const search = new GuideSearch({ step, states: guide.states, symptom: symptom.id, options, weights });
    return {
      id: symptom.id,
      says: symptom.says,
      also: symptom.also ?? [],
      tell: symptom.tell ?? null,
      causes: search.causes.map(({ cause, name, chance }) => {
        const { low, high, n } = must(learned[cause]);
        return { id: cause, name, chance, low, high, n };
      }),
      minutes: search.expectedMinutes,
      first: search.open[0]?.check.title ?? null,
    };
  });
  const byCause = new Map<string, number>();
  for (const { cause, n } of found) byCause.set(cause, (byCause.get(cause) ?? 0) + n);
  const name = namesOf(guide);
  return {
    guide,
    symptoms,
    pareto: [...byCause]
      .map(([id, n]) => ({ id, name: name.cause(id), n }))
      .sort((a, b) => b.n - a.n || a.name.localeCompare(b.name)),
  };
}

/** A family's causes by symptom: typical, learned, and how often they were found. */
export async function causesCsv(family: string): Promise<string> {
  const { symptoms } = await guideView(family);
  const share = (value: number): string => value.toFixed(4);
  return csvText(
    ["symptom", "cause", "chance", "low", "high", "found"],
    symptoms.flatMap(({ says, causes }) =>
      causes.map(({ name, chance, low, high, n }) => [says, name, share(chance), share(low), share(high), n]),
    ),
  );
}
