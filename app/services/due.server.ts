import { assessDue, creditCovered, daysBetween, dueState, type Completion, type DueAssessment, type DueInput, type DueState } from "@core";
import { getDb, type PlanRow, type Transaction } from "@db";
import { dayInZone, latestDay } from "~/shared/site-day";

/** Everything of one machine that its duties depend on. */
export interface MachineFacts {
  timeZone: string;
  plans: PlanRow[];
  completions: Completion[];
  meters: DueInput["meters"];
  readings: DueInput["readings"];
  events: DueInput["events"];
}

/** Reads a machine's facts: six indexed queries, whatever the size of the register. */
export async function machineFacts(machineId: string, tx?: Transaction): Promise<MachineFacts> {
  const db = getDb();
  const at = { machineId };
  const [site] = await db.select<{ timeZone: string }>(
    "SELECT s.time_zone AS timeZone FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id = :machineId",
    at,
    tx,
  );
  const plans = await db.models.Plan.findAll({ where: { machineId }, raw: true, transaction: tx ?? null });
  const completions = await db.select<Completion>(
    "SELECT plan_id AS planId, done_on AS `on`, meters FROM completions WHERE machine_id = :machineId ORDER BY done_on",
    at,
    tx,
  );
  const meters = await db.select<{ name: string; on: string; value: number }>(
    "SELECT meter AS name, read_on AS `on`, value FROM meter_readings WHERE machine_id = :machineId ORDER BY read_at, id",
    at,
    tx,
  );
  const readings = await db.select<{ name: string; on: string; value: number }>(
    "SELECT reading AS name, read_on AS `on`, value FROM readings WHERE machine_id = :machineId ORDER BY read_at, id",
    at,
    tx,
  );
  const events = await db.select<{ event: string; on: string }>("SELECT event, happens_on AS `on` FROM machine_events WHERE machine_id = :machineId", at, tx);

  const planOfProcedure = new Map(plans.map((plan) => [plan.procedureId, plan.id]));
  const covering = plans.map((plan) => ({
    id: plan.id,
    covers: (plan.rules.covers ?? []).flatMap((procedureId) => planOfProcedure.get(procedureId) ?? []),
  }));
  return {
    timeZone: site?.timeZone ?? "UTC",
    plans,
    completions: creditCovered(covering, completions),
    meters: byName(meters),
    readings: byName(readings),
    events,
  };
}

function byName(rows: { name: string; on: string; value: number }[]): DueInput["meters"] {
  const grouped: DueInput["meters"] = {};
  for (const { name, on, value } of rows) (grouped[name] ??= []).push({ on, value });
  return grouped;
}

/** The due engine's input for one plan. */
export function dueInput(
  plan: Pick<PlanRow, "id" | "startOn" | "rules" | "hardStop">,
  facts: Omit<MachineFacts, "plans" | "timeZone">,
  today: string,
): DueInput {
  const { triggers, notice, warning, intervalFactor } = plan.rules;
  return {
    plan: {
      id: plan.id,
      startOn: plan.startOn,
      triggers,
      hardStop: Boolean(plan.hardStop),
      ...(notice ? { notice } : {}),
      ...(warning ? { warning } : {}),
      ...(intervalFactor ? { intervalFactor } : {}),
    },
    completions: facts.completions,
    meters: facts.meters,
    readings: facts.readings,
    events: facts.events,
    today,
  };
}

export type StoredDue = Pick<PlanRow, "dueOn" | "warningFrom" | "noticeFrom" | "projected" | "firmDueOn" | "anchorOn" | "rivals">;

/** What of an assessment is stored; the state itself is derived when asked, from these days and the site's own day. */
export function storedDue(assessed: DueAssessment, input: DueInput): StoredDue {
  const driver = assessed.perTrigger.find((one) => one.trigger === assessed.driver);
  const firm = assessed.perTrigger.filter((one) => !one.projected && one.dueOn !== null).map((one) => one.dueOn!);
  const done = input.completions.filter((one) => one.planId === input.plan.id).map((one) => one.on);
  return {
    dueOn: assessed.dueOn,
    warningFrom: assessed.warningFrom,
    noticeFrom: assessed.noticeFrom,
    projected: driver?.projected ?? false,
    firmDueOn: firm.length === 0 ? null : firm.reduce((a, b) => (a < b ? a : b)),
    anchorOn: done.length === 0 ? input.plan.startOn : done.reduce((a, b) => (a > b ? a : b)),
    rivals: assessed.perTrigger.filter((one) => one !== driver && one.dueOn !== null).map((one) => one.dueOn!),
  };
}

/** Assesses one machine's plans anew and stores the days that changed. Called by whatever changes a machine's facts. */
export async function assessMachine(machineId: string, now: Date, tx?: Transaction): Promise<void> {
  const facts = await machineFacts(machineId, tx);
  const today = dayInZone(now, facts.timeZone);
  for (const plan of facts.plans) {
    const input = dueInput(plan, facts, today);
    const stored = storedDue(assessDue(input), input);
    await getDb().models.Plan.update({ ...stored, assessedAt: now }, { where: { id: plan.id }, transaction: tx ?? null });
  }
}

export interface DueNow {
  state: DueState;
  dueOn: string | null;
  daysLeft: number | null;
}

/**
 * State of a stored duty on the site's day. A forecast that has passed without a reading makes a duty due, never
 * overdue; only a day that is no forecast does that.
 */
export function dueNow(stored: StoredDue & { hardStop: boolean }, today: string): DueNow {
  let { dueOn } = stored;
  if (dueOn !== null && stored.projected && today > dueOn) {
    dueOn = stored.firmDueOn !== null && stored.firmDueOn < today ? stored.firmDueOn : today;
  }
  const state = dueState({ dueOn, warningFrom: stored.warningFrom, noticeFrom: stored.noticeFrom, hardStop: Boolean(stored.hardStop) }, today);
  return { state, dueOn, daysLeft: dueOn === null ? null : daysBetween(today, dueOn) };
}

export interface DueRow extends DueNow {
  planId: string;
  title: string;
  minutes: number;
  who: PlanRow["who"];
  anchorOn: string | null;
  rivals: string[];
  hardStop: boolean;
  projected: boolean;
  machineId: string;
  machineName: string;
  machineTag: string;
  family: string;
  area: string;
  siteId: string;
  siteName: string;
  customerName: string;
  accessHours: string;
  today: string;
  openRunId: string | null;
  /** Why the last visit left it undone. */
  lastOutcome: { outcome: string; reason: string; at: string } | null;
}

interface DueSqlRow extends Omit<DueRow, "state" | "daysLeft" | "today" | "openRunId" | "lastOutcome"> {
  timeZone: string;
  warningFrom: string | null;
  noticeFrom: string | null;
  firmDueOn: string | null;
}

const DUE_COLUMNS = `
  p.id AS planId, p.title, p.minutes, p.who, p.anchor_on AS anchorOn, p.rivals, p.hard_stop AS hardStop, p.projected,
  p.due_on AS dueOn, p.warning_from AS warningFrom, p.notice_from AS noticeFrom, p.firm_due_on AS firmDueOn,
  m.id AS machineId, m.name AS machineName, m.tag AS machineTag, m.family, m.area,
  s.id AS siteId, s.name AS siteName, s.time_zone AS timeZone, s.access_hours AS accessHours, c.name AS customerName
  FROM plans p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id JOIN customers c ON c.id = s.customer_id`;

/** What needs attention now, longest due first: 50 a page, three queries. */
export async function listDue(
  filter: { siteId?: string | null; after?: string | null; limit?: number },
  now: Date,
): Promise<{ rows: DueRow[]; next: string | null }> {
  const limit = filter.limit ?? 50;
  const [afterDay, afterId] = filter.after?.split("_") ?? [];
  // The page's ids come from one covering index; only they are joined.
  const found = await getDb().select<DueSqlRow>(
    `SELECT ${DUE_COLUMNS}
     JOIN (
       SELECT id FROM plans
       WHERE active = 1 AND notice_from <= :latest
         ${filter.siteId ? "AND machine_id IN (SELECT id FROM machines WHERE site_id = :siteId)" : ""}
         ${afterDay && afterId ? "AND (due_on > :afterDay OR (due_on = :afterDay AND id > :afterId))" : ""}
       ORDER BY due_on, id LIMIT :fetch
     ) page ON page.id = p.id
     ORDER BY p.due_on, p.id`,
    { latest: latestDay(now), siteId: filter.siteId ?? "", afterDay: afterDay ?? "", afterId: afterId ?? "", fetch: limit + 1 },
  );
  const page = found.slice(0, limit);
  const last = page[page.length - 1];
  return {
    rows: (await withRuns(page.map((row) => asDueRow(row, now)))).filter((row) => row.state !== "later"),
    next: found.length > limit && last ? `${last.dueOn}_${last.planId}` : null,
  };
}

/** The duties of one machine, soonest first. */
export async function listMachineDuties(machineId: string, now: Date): Promise<DueRow[]> {
  const found = await getDb().select<DueSqlRow>(
    `SELECT ${DUE_COLUMNS} WHERE p.machine_id = :machineId AND p.active = 1 ORDER BY p.due_on IS NULL, p.due_on, p.title`,
    { machineId },
  );
  return withRuns(found.map((row) => asDueRow(row, now)));
}

/** One duty with its live assessment and the reasons. */
export async function getDuty(planId: string, now: Date): Promise<{ row: DueRow; plan: PlanRow; assessed: DueAssessment } | null> {
  const [found] = await getDb().select<DueSqlRow>(`SELECT ${DUE_COLUMNS} WHERE p.id = :planId`, { planId });
  if (!found) return null;
  const facts = await machineFacts(found.machineId);
  const plan = facts.plans.find((one) => one.id === planId)!;
  const [row] = await withRuns([asDueRow(found, now)]);
  return { row: row!, plan, assessed: assessDue(dueInput(plan, facts, row!.today)) };
}

function asDueRow(row: DueSqlRow, now: Date): DueRow {
  const { timeZone, warningFrom, noticeFrom, firmDueOn, ...shown } = row;
  const today = dayInZone(now, timeZone);
  const stored = { ...shown, warningFrom, noticeFrom, firmDueOn, projected: Boolean(row.projected), hardStop: Boolean(row.hardStop) };
  return { ...shown, projected: stored.projected, hardStop: stored.hardStop, ...dueNow(stored, today), today, openRunId: null, lastOutcome: null };
}

/** Adds each duty's open sheet, and why the last visit left it undone if nothing was completed since. */
async function withRuns(rows: DueRow[]): Promise<DueRow[]> {
  if (rows.length === 0) return rows;
  const runs = await getDb().select<{ id: string; planId: string; status: string; outcome: string | null; reason: string | null; closedAt: Date | null }>(
    // Runs before the running interval say nothing about it any more.
    `SELECT r.id, r.plan_id AS planId, r.status, r.outcome, r.outcome_reason AS reason, r.closed_at AS closedAt
     FROM plans p JOIN runs r ON r.plan_id = p.id AND r.opened_at >= p.anchor_on - INTERVAL 1 DAY
     WHERE p.id IN (:planIds) ORDER BY r.opened_at`,
    { planIds: rows.map((row) => row.planId) },
  );
  const byPlan = new Map(rows.map((row) => [row.planId, row]));
  for (const run of runs) {
    const row = byPlan.get(run.planId)!;
    if (run.status === "open") row.openRunId = run.id;
    // Runs come in order: a signed one after an outcome settles it.
    if (run.status === "signed") row.lastOutcome = null;
    if (run.status === "ended") row.lastOutcome = { outcome: run.outcome ?? "", reason: run.reason ?? "", at: run.closedAt?.toISOString() ?? "" };
  }
  return rows;
}
