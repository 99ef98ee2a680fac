import { dayInZone } from "~/kit/days/site-day";
import { outcomeName } from "~/kit/outcomes";
import { zoneOf } from "~/kit/server/audit.server";

import * as sql from "./trail.sql";

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

/** Everything that is known of one machine, oldest first: nine indexed queries. */
export async function machineTrail(machineId: string): Promise<Trail> {
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
  const sheets = await sql.entriesOfMachine(at);
  const facts = await sql.sheetsOfMachine(at);
  const holds = await sql.holdsOfMachine(at);
  const ticks = await sql.ticksOfMachine(at);
  const reports = await sql.reportsOfMachine(at);
  const meters = await sql.metersOfMachine(at);
  const readings = await sql.readingsOfMachine(at);
  const changes = await sql.changesOfDuties(at);

  const items: TrailItem[] = [
    ...sheets.map((sheet) =>
      item(
        sheet.status === "signed" ? "service" : "fault",
        sheet.closedAt,
        sheet.title,
        sheet.status === "signed"
          ? `signed by ${sheet.by}`
          : `${outcomeName(sheet.outcome ?? "")}: ${sheet.reason ?? ""}`,
        `/book/records/${sheet.id}`,
      ),
    ),
    ...facts.map(({ type, body, sheetId }) =>
      type !== "finding"
        ? item(
            "part",
            new Date(body.at),
            `${type === "part-fitted" ? "New" : "Turned:"} ${plain(body.item)}`,
            `${plain(body.slot)}${body.lot ? `, lot ${body.lot}` : ""}`,
            `/book/records/${sheetId}`,
          )
        : item(
            "fault",
            new Date(body.at),
            `Finding, ${body.severity ?? ""}`,
            body.text ?? "",
            `/book/records/${sheetId}`,
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
