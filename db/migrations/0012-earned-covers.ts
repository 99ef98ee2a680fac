import { CoreError, expandNested, type Procedure } from "../../core/index";
import type { Migration } from "../migrate";

interface Published {
  id: string;
  version: number;
  body: Procedure | string;
  expanded: Procedure | string | null;
}

const asProcedure = (json: Procedure | string): Procedure =>
  typeof json === "string" ? (JSON.parse(json) as Procedure) : json;

/**
 * A completion says which duties it counts for, the duties that it contains among them: NULL for those that were there before,
 * which count for all that they are said to contain. What published procedures nest says from where each step came.
 */
export const earnedCovers: Migration = {
  name: "0012-earned-covers",
  async up(query) {
    await query("ALTER TABLE completions ADD COLUMN credits JSON NULL");
    const rows = (await query("SELECT id, version, body, expanded FROM procedures")) as Published[];
    const bodies = new Map(rows.map((row) => [`${row.id}@${row.version}`, asProcedure(row.body)]));
    for (const row of rows) {
      const { id, version } = row;
      if (row.expanded === null) continue;
      const [body, expanded] = [asProcedure(row.body), asProcedure(row.expanded)];
      if (body.formatVersion !== 1) continue;
      const whole = expandedAgain(body, (inner, at) => bodies.get(`${inner}@${at}`));
      const steps = (one: Procedure): string => JSON.stringify(one.steps.map((step) => step.id));
      // Sheets are bound to these steps: more is said of them, nothing else.
      if (!whole || steps(whole) !== steps(expanded)) continue;
      const from = new Map(whole.steps.map((step) => [step.id, step.workedFor]));
      const told = {
        ...expanded,
        steps: expanded.steps.map((step) => {
          const workedFor = from.get(step.id);
          return workedFor ? { ...step, workedFor } : step;
        }),
      };
      await query("UPDATE procedures SET expanded = :told WHERE id = :id AND version = :version", {
        id,
        version,
        told: JSON.stringify(told),
      });
    }
  },
};

function expandedAgain(
  body: Procedure,
  find: (id: string, version: number) => Procedure | undefined,
): Procedure | null {
  try {
    return expandNested(body, find);
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}
