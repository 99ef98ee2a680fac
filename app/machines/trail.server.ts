import { getDb } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import { outcomeName } from "~/kit/outcomes";
import { zoneOf } from "~/kit/server/audit.server";

export type TrailKind = "service" | "operator" | "part" | "fault" | "meter" | "change";

export interface TrailItem {
  kind: TrailKind;
  /** Instant in milliseconds. */
  at: number;
  /** The site's own day. */
  on: string;
  title: string;
  text: string;
  href: string | null;
}

export interface TrailSeries {
  name: string;
  unit: string;
  points: { at: number; value: number }[];
}

export interface Trail {
  items: TrailItem[];
  series: TrailSeries[];
}

const EACH = 400;

/** Everything that is known of one machine, oldest first: nine indexed queries. */
export async function machineTrail(machineId: string): Promise<Trail> {
  const db = getDb();
  const at = { machineId };
  const zone = await zoneOf(machineId);
  const item = (kind: TrailKind, when: Date, title: string, text = "", href: string | null = null): TrailItem => ({
    kind,
    at: when.getTime(),
    on: dayInZone(when, zone),
    title,
    text,
    href,
  });
  const runs = await db.select<{
    id: string;
    title: string;
    status: string;
    outcome: string | null;
    reason: string | null;
    closedAt: Date;
    by: string;
  }>(
    `SELECT r.id, p.title, r.status, r.outcome, r.outcome_reason AS reason, r.closed_at AS closedAt, x.name AS \`by\`
     FROM runs r JOIN plans p ON p.id = r.plan_id JOIN persons x ON x.id = r.closed_by
     WHERE r.machine_id = :machineId AND r.closed_at IS NOT NULL ORDER BY r.opened_at DESC LIMIT ${EACH}`,
    at,
  );
  const facts = await db.select<{
    type: string;
    body: { at: string; item?: string; slot?: string; lot?: string; text?: string; severity?: string };
    runId: string;
  }>(
    `SELECT e.type, e.body, e.run_id AS runId FROM runs r JOIN run_events e ON e.run_id = r.id
     WHERE r.machine_id = :machineId AND e.type IN ('part-fitted','part-turned','finding') ORDER BY r.opened_at DESC LIMIT ${EACH}`,
    at,
  );
  const holds = await db.select<{
    reason: string;
    since: Date;
    by: string;
    clearedAt: Date | null;
    clearedBy: string | null;
    note: string;
  }>(
    `SELECT h.reason, h.since, p.name AS \`by\`, h.cleared_at AS clearedAt, q.name AS clearedBy, h.cleared_note AS note
     FROM machine_holds h JOIN persons p ON p.id = h.by_person LEFT JOIN persons q ON q.id = h.cleared_by
     WHERE h.machine_id = :machineId ORDER BY h.since DESC LIMIT ${EACH}`,
    at,
  );
  const ticks = await db.select<{ title: string; name: string; at: Date }>(
    `SELECT p.title, t.name, t.logged_at AS at FROM operator_ticks t JOIN plans p ON p.id = t.plan_id
     WHERE t.machine_id = :machineId ORDER BY t.logged_at DESC LIMIT ${EACH}`,
    at,
  );
  const reports = await db.select<{ text: string; name: string; stopped: number; at: Date }>(
    `SELECT text, name, stopped, logged_at AS at FROM problem_reports WHERE machine_id = :machineId ORDER BY logged_at DESC LIMIT ${EACH}`,
    at,
  );
  const meters = await db.select<{ meter: string; value: number; at: Date; replaced: number; note: string }>(
    `SELECT meter, value, read_at AS at, replaced, note FROM meter_readings WHERE machine_id = :machineId ORDER BY read_at DESC, id DESC LIMIT ${EACH}`,
    at,
  );
  const readings = await db.select<{ reading: string; unit: string; value: number; at: Date }>(
    `SELECT reading, unit, value, read_at AS at FROM readings WHERE machine_id = :machineId ORDER BY read_at DESC, id DESC LIMIT ${EACH}`,
    at,
  );
  const changes = await db.select<{
    action: string;
    details: { reason?: string };
    title: string | null;
    at: Date;
    by: string | null;
  }>(
    `SELECT a.action, a.details, p.title, a.at, x.name AS \`by\` FROM plans p JOIN audit_log a ON a.subject = 'plan' AND a.subject_id = p.id
       LEFT JOIN persons x ON x.id = a.by_person WHERE p.machine_id = :machineId AND a.action IN ('changed','added')
     UNION ALL SELECT a.action, a.details, NULL, a.at, x.name FROM audit_log a LEFT JOIN persons x ON x.id = a.by_person
       WHERE a.subject = 'machine' AND a.subject_id = :machineId ORDER BY at DESC LIMIT ${EACH}`,
    at,
  );

  const items: TrailItem[] = [
    ...runs.map((run) =>
      item(
        run.status === "signed" ? "service" : "fault",
        run.closedAt,
        run.title,
        run.status === "signed" ? `signed by ${run.by}` : `${outcomeName(run.outcome ?? "")}: ${run.reason ?? ""}`,
        `/book/records/${run.id}`,
      ),
    ),
    ...facts.map(({ type, body, runId }) =>
      type !== "finding"
        ? item(
            "part",
            new Date(body.at),
            `${type === "part-fitted" ? "New" : "Turned:"} ${plain(body.item)}`,
            `${plain(body.slot)}${body.lot ? `, lot ${body.lot}` : ""}`,
            `/book/records/${runId}`,
          )
        : item(
            "fault",
            new Date(body.at),
            `Finding, ${body.severity ?? ""}`,
            body.text ?? "",
            `/book/records/${runId}`,
          ),
    ),
    ...holds.flatMap((hold) => [
      item("fault", hold.since, "Out of service", `${hold.reason} (${hold.by})`),
      ...(hold.clearedAt
        ? [item("change", hold.clearedAt, "Returned to service", `${hold.note} (${hold.clearedBy ?? ""})`)]
        : []),
    ]),
    ...ticks.map((tick) => item("operator", tick.at, tick.title, tick.name)),
    ...reports.map((report) =>
      item(
        "fault",
        report.at,
        report.stopped ? "Reported: machine stopped" : "Reported",
        `${report.text} (${report.name})`,
      ),
    ),
    ...meters
      .filter((one) => one.replaced)
      .map((one) =>
        item(
          "meter",
          one.at,
          `Meter replaced: ${plain(one.meter)}`,
          `starts at ${one.value}${one.note ? `. ${one.note}` : ""}`,
        ),
      ),
    ...changes.map((one) =>
      item(
        "change",
        one.at,
        one.title ? `${one.title}: ${one.action}` : one.action,
        [one.details.reason, one.by].filter(Boolean).join(", "),
      ),
    ),
  ];
  return {
    items: items.sort((a, b) => a.at - b.at),
    series: [
      ...seriesOf(meters.map((one) => ({ ...one, name: plain(one.meter), unit: "" }))),
      ...seriesOf(readings.map((one) => ({ ...one, name: plain(one.reading) }))),
    ],
  };
}

const plain = (name: string | undefined): string => (name ?? "").replaceAll("-", " ");

function seriesOf(rows: readonly { name: string; unit: string; value: number; at: Date }[]): TrailSeries[] {
  const byName = new Map<string, TrailSeries>();
  for (const { name, unit, value, at } of [...rows].reverse()) {
    const series = byName.get(name) ?? { name, unit, points: [] };
    series.points.push({ at: at.getTime(), value });
    byName.set(name, series);
  }
  return [...byName.values()];
}
