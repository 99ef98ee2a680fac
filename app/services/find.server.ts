import { likeText } from "./like-text.server";
import { getDb } from "@db";
import type { Role } from "@db";
import { listMachines } from "./machines.server";
import { findSites } from "./sites.server";

export interface Found {
  kind: "Machine" | "Site" | "Part" | "Place";
  title: string;
  text: string;
  href: string;
}

const PLACES: (readonly [title: string, href: string, lead?: true])[] = [
  ["Round", "/round"],
  ["Ahead", "/ahead"],
  ["52 weeks of work", "/ahead/workload"],
  ["My calendar", "/calendars"],
  ["Machines", "/machines"],
  ["Sites", "/sites"],
  ["Meter readings from a file", "/machines/readings"],
  ["Gateway", "/machines/gateway", true],
  ["Import machines", "/machines/import", true],
  ["Stores", "/stores"],
  ["Book", "/book"],
  ["Procedures", "/book/procedures"],
  ["People", "/book/people", true],
];
const EACH = 6;

/** Machines, sites, parts and places whose words begin like the text: five indexed queries. */
export async function findAnything(text: string, role: Role): Promise<Found[]> {
  const q = text.trim().slice(0, 80);
  const places = PLACES.filter(([title, , lead]) => (!lead || role === "lead") && title.toLowerCase().includes(q.toLowerCase())).map(
    ([title, href]): Found => ({ kind: "Place", title, text: "", href }),
  );
  if (q === "") return places;
  const machines = await listMachines({ q });
  const sites = await findSites({ q, after: null });
  const parts = await getDb().select<{ id: string; title: string; name: string }>(
    `SELECT p.id, p.title, j.name FROM procedures p
       JOIN (SELECT id, MAX(version) AS version FROM procedures GROUP BY id) newest ON newest.id = p.id AND newest.version = p.version,
       JSON_TABLE(JSON_MERGE_PRESERVE(JSON_EXTRACT(COALESCE(p.expanded, p.body), '$.parts'), JSON_EXTRACT(COALESCE(p.expanded, p.body), '$.materials')), '$[*]' COLUMNS (name VARCHAR(200) PATH '$.name')) j
     WHERE j.name LIKE :like LIMIT ${EACH}`,
    { like: `%${likeText(q)}%` },
  );
  return [
    ...machines.rows
      .slice(0, EACH)
      .map((row): Found => ({ kind: "Machine", title: row.name, text: `${row.tag} · ${row.siteName}`, href: `/machines/${row.id}` })),
    ...sites.rows.slice(0, EACH).map((row): Found => ({ kind: "Site", title: row.name, text: row.customerName, href: `/sites/${row.id}` })),
    ...parts.map((row): Found => ({ kind: "Part", title: row.name, text: row.title, href: `/book/procedures/${row.id}` })),
    ...places,
  ];
}
