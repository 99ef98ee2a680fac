import { QueryTypes, type Sequelize } from "sequelize";
import { SequelizeStorage, Umzug } from "umzug";

import { start } from "./migrations/0001-start";
import { registerAndAhead } from "./migrations/0002-register-and-ahead";
import { sheetsForReal } from "./migrations/0003-sheets-for-real";
import { rounds } from "./migrations/0004-rounds";
import { pinnedDuties } from "./migrations/0005-pinned-duties";
import { stores } from "./migrations/0006-stores";
import { plansHaveASite } from "./migrations/0007-plans-have-a-site";
import { words } from "./migrations/0008-words";
import { lateEntries } from "./migrations/0009-late-entries";
import { oneOpenSheet } from "./migrations/0010-one-open-sheet";
import { submissions } from "./migrations/0011-submissions";
import { earnedCovers } from "./migrations/0012-earned-covers";
import { parkedFromSheets } from "./migrations/0013-parked-from-sheets";
import { openItems } from "./migrations/0014-open-items";
import { metersToRead } from "./migrations/0015-meters-to-read";
import { addedAndTakenOut } from "./migrations/0016-added-and-taken-out";
import { summariesAndJobs } from "./migrations/0017-summaries-and-jobs";
import { dayFigures } from "./migrations/0018-day-figures";
import { beforeWeCome } from "./migrations/0019-before-we-come";
import { breaks } from "./migrations/0020-breaks";
import { faults } from "./migrations/0021-faults";
import { practiceAndCodes } from "./migrations/0022-practice-and-codes";
import { wear } from "./migrations/0023-wear";
import { intervals } from "./migrations/0024-intervals";
import { turns } from "./migrations/0025-turns";

/** One step of the schema's story. There is no way down: production goes forward, development reloads the demo. */
export interface Migration {
  name: string;
  /** `query` gives the rows of a SELECT. */
  up(query: (sql: string, values?: Record<string, unknown>) => Promise<unknown>): Promise<void>;
}

const MIGRATIONS: Migration[] = [
  start,
  registerAndAhead,
  sheetsForReal,
  rounds,
  pinnedDuties,
  stores,
  plansHaveASite,
  words,
  lateEntries,
  oneOpenSheet,
  submissions,
  earnedCovers,
  parkedFromSheets,
  openItems,
  metersToRead,
  addedAndTakenOut,
  summariesAndJobs,
  dayFigures,
  beforeWeCome,
  breaks,
  faults,
  practiceAndCodes,
  wear,
  intervals,
  turns,
];

function umzug(sequelize: Sequelize): Umzug<Sequelize> {
  return new Umzug({
    migrations: MIGRATIONS.map((migration) => ({
      name: migration.name,
      up: () =>
        migration.up((sql, replacements) =>
          sequelize.query(sql, {
            ...(replacements ? { replacements } : {}),
            ...(sql.startsWith("SELECT") ? { type: QueryTypes.SELECT } : {}),
          }),
        ),
    })),
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: "migrations" }),
    logger: undefined,
  });
}

/** Brings the schema up to date; names of the migrations that ran. */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  return (await umzug(sequelize).up()).map((one) => one.name);
}

/** Names of migrations that have not run yet. */
export async function pendingMigrations(sequelize: Sequelize): Promise<string[]> {
  return (await umzug(sequelize).pending()).map((one) => one.name);
}
