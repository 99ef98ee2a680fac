import type { Migration } from "../migrate";

/** Old and new name of each table that is called by the word people use. */
const TABLES: [old: string, now: string][] = [
  ["plans", "duties"],
  ["runs", "sheets"],
  ["run_events", "log_entries"],
  ["run_minutes", "sheet_minutes"],
  ["machine_events", "occurrences"],
];

/** Columns that point at them, by the tables' new names. */
const COLUMNS: [table: string, old: string, now: string][] = [
  ["completions", "plan_id", "duty_id"],
  ["pauses", "plan_id", "duty_id"],
  ["operator_ticks", "plan_id", "duty_id"],
  ["reservations", "plan_id", "duty_id"],
  ["sheets", "plan_id", "duty_id"],
  ["completions", "run_id", "sheet_id"],
  ["meter_readings", "run_id", "sheet_id"],
  ["readings", "run_id", "sheet_id"],
  ["machine_holds", "run_id", "sheet_id"],
  ["machine_holds", "event_id", "entry_id"],
  ["machine_slots", "run_id", "sheet_id"],
  ["log_entries", "run_id", "sheet_id"],
  ["sheet_minutes", "run_id", "sheet_id"],
  ["stock_moves", "run_id", "sheet_id"],
  ["stock_moves", "event_id", "entry_id"],
];

const INDEXES: [table: string, old: string, now: string][] = [
  ["duties", "plans_machine", "duties_machine"],
  ["duties", "plans_site_due", "duties_site_due"],
  ["duties", "plans_due", "duties_due"],
  ["duties", "plans_planned", "duties_planned"],
  ["sheets", "runs_plan", "sheets_duty"],
  ["sheets", "runs_machine", "sheets_machine"],
  ["sheets", "runs_closed", "sheets_closed"],
  ["sheets", "runs_held", "sheets_held"],
  ["sheets", "runs_closed_by", "sheets_closed_by"],
  ["log_entries", "run_events_id", "log_entries_id"],
  ["log_entries", "run_events_run", "log_entries_sheet"],
  ["sheet_minutes", "run_minutes_procedure", "sheet_minutes_procedure"],
  ["sheet_minutes", "run_minutes_done", "sheet_minutes_done"],
  ["occurrences", "machine_events_machine", "occurrences_machine"],
  ["completions", "completions_run", "completions_sheet"],
  ["machine_holds", "machine_holds_event", "machine_holds_entry"],
  ["stock_moves", "stock_moves_run", "stock_moves_sheet"],
  ["reservations", "reservations_plan", "reservations_duty"],
];

/**
 * One thing, one name: a duty is owed, a sheet is one working-through, an entry is what is logged on it, an occurrence is
 * what happens to a machine. Every statement can be run again: what was renamed before a crash is left.
 */
export const words: Migration = {
  name: "0008-words",
  async up(query) {
    for (const [old, now] of TABLES) await query(`RENAME TABLE IF EXISTS ${old} TO ${now}`);
    for (const [table, old, now] of COLUMNS)
      await query(`ALTER TABLE ${table} RENAME COLUMN IF EXISTS ${old} TO ${now}`);
    for (const [table, old, now] of INDEXES)
      await query(`ALTER TABLE ${table} RENAME INDEX IF EXISTS ${old} TO ${now}`);
    const sources = (list: string): string => `ALTER TABLE meter_readings MODIFY COLUMN source ENUM(${list}) NOT NULL`;
    await query(sources("'run','sheet','hand','import','gateway','operator'"));
    await query("UPDATE meter_readings SET source = 'sheet' WHERE source = 'run'");
    await query(sources("'sheet','hand','import','gateway','operator'"));
    await query("UPDATE audit_log SET subject = 'duty' WHERE subject = 'plan'");
  },
};
