import type { ImportAnswers, ImportAsks } from "@db";

import { familyMeant } from "~/machines/adding/family-meant";

import type { ParsedRegister } from "./machine-csv.server";

type GoodRow = ParsedRegister["good"][number];

/** A file with more unknown families than that names something else in the column. */
const MOST_ASKED = 50;

/**
 * Gives each row the family that is meant; those of which only a person can tell wait.
 *
 * @returns the rows whose family is known, and what is to be asked about the others
 */
export function settleFamilies(
  rows: readonly GoodRow[],
  families: readonly string[],
  answers: ImportAnswers,
): { known: GoodRow[]; families: ImportAsks["families"] } {
  const meant = new Map<string, string | null>();
  const asked = new Map<string, ImportAsks["families"][number]>();
  const known: GoodRow[] = [];
  for (const row of rows) {
    const said = row.record.family;
    if (!meant.has(said)) {
      const found = familyMeant(said, families);
      const answer = Object.hasOwn(answers.families, said) ? answers.families[said] : undefined;
      meant.set(said, answer ?? found.family);
      if (answer === undefined && found.family === null) asked.set(said, { said, nearest: found.nearest, rows: 0 });
    }
    const family = meant.get(said);
    const ask = asked.get(said);
    if (family) known.push({ ...row, record: { ...row.record, family } });
    else if (ask) ask.rows += 1;
  }
  return { known, families: [...asked.values()].slice(0, MOST_ASKED) };
}
