import { handsOnMinutes, type LearnedMinutes, learnMinutes, type RunEvent } from "@core";
import { getDb, type Transaction } from "@db";

/** Services looked back on for one procedure. */
const LOOK_BACK = 60;

export interface RunMinutes {
  runId: string;
  procedureId: string;
  siteId: string;
  personId: string;
  doneOn: string;
  events: readonly RunEvent[];
}

/** Keeps what signed sheets took: worked out once, from their logs. */
export async function storeRunMinutes(runs: readonly RunMinutes[], tx: Transaction): Promise<void> {
  const rows = runs.flatMap(({ events, ...run }) => {
    const minutes = handsOnMinutes(events);
    return minutes === null || minutes <= 0 ? [] : [{ ...run, minutes: Math.round(minutes * 10) / 10 }];
  });
  if (rows.length === 0) return;
  const places = rows.map((_, i) => `(:r${i}, :q${i}, :s${i}, :p${i}, :d${i}, :m${i})`).join(", ");
  await getDb().run(
    `INSERT INTO run_minutes (run_id, procedure_id, site_id, person_id, done_on, hands_minutes) VALUES ${places}
     ON DUPLICATE KEY UPDATE hands_minutes = VALUES(hands_minutes)`,
    Object.assign(
      {},
      ...rows.map((row, i) => ({
        [`r${i}`]: row.runId,
        [`q${i}`]: row.procedureId,
        [`s${i}`]: row.siteId,
        [`p${i}`]: row.personId,
        [`d${i}`]: row.doneOn,
        [`m${i}`]: row.minutes,
      })),
    ) as Record<string, unknown>,
    tx,
  );
}

/** Minutes to plan with, for each procedure at each site in a person's hands: one query, on one covering index. */
export async function learnedMinutes(
  wanted: readonly { procedureId: string; siteId: string; typical: number }[],
  personId: string,
): Promise<LearnedMinutes[]> {
  if (wanted.length === 0) return [];
  const rows = await getDb().select<{ procedureId: string; siteId: string; personId: string; minutes: number }>(
    `SELECT procedure_id AS procedureId, site_id AS siteId, person_id AS personId, hands_minutes AS minutes FROM (
       SELECT procedure_id, site_id, person_id, hands_minutes, ROW_NUMBER() OVER (PARTITION BY procedure_id ORDER BY done_on DESC) AS place
       FROM run_minutes WHERE procedure_id IN (:ids)
     ) recent WHERE place <= ${LOOK_BACK}`,
    { ids: [...new Set(wanted.map((one) => one.procedureId))] },
  );
  return wanted.map(({ procedureId, siteId, typical }) =>
    learnMinutes(
      Math.max(1, typical),
      rows
        .filter((row) => row.procedureId === procedureId)
        .map((row) => ({
          minutes: row.minutes,
          sameSite: row.siteId === siteId,
          samePerson: row.personId === personId,
        })),
    ),
  );
}
