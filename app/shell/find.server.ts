import type { Role } from "@db";

import { quantity } from "~/kit/forms/quantity";
import { listMachines } from "~/machines/machines.server";
import { findSites } from "~/machines/sites/sites.server";
import { listItems } from "~/stores/items/catalogue.server";

export interface Found {
  kind: "Machine" | "Site" | "Part" | "Place";
  title: string;
  text: string;
  href: string;
}

const PLACES: (readonly [title: string, href: string, lead?: true])[] = [
  ["Round", "/round"],
  ["First steps", "/first-steps", true],
  ["Ahead", "/ahead"],
  ["52 weeks of work", "/ahead/workload"],
  ["My calendar", "/calendars"],
  ["Machines", "/machines"],
  ["Add a machine", "/machines/new"],
  ["Sites", "/sites"],
  ["Add a site", "/sites/new"],
  ["Meter readings from a file", "/machines/readings"],
  ["Gateway", "/machines/gateway", true],
  ["Import machines", "/machines/import", true],
  ["Stores", "/stores"],
  ["Items", "/stores/items"],
  ["Places in the stores", "/stores/places"],
  ["Orders", "/stores/orders"],
  ["Kits", "/stores/kits"],
  ["What a span takes", "/stores/need"],
  ["Load list", "/round/load"],
  ["Costs", "/stores/costs", true],
  ["Stock from a file", "/stores/import", true],
  ["Book", "/book"],
  ["Procedures", "/book/procedures"],
  ["People", "/book/people", true],
];
const EACH = 6;

/** Machines, sites, parts and places whose words begin like the text: a few indexed queries. */
export async function findAnything(text: string, role: Role): Promise<Found[]> {
  const q = text.trim().slice(0, 80);
  const places = PLACES.filter(
    ([title, , lead]) => (!lead || role === "lead") && title.toLowerCase().includes(q.toLowerCase()),
  ).map(([title, href]): Found => ({ kind: "Place", title, text: "", href }));
  if (q === "") return places;
  const machines = await listMachines({ q });
  const sites = await findSites({ q, after: null });
  const parts = (await listItems({ q, after: null, limit: EACH })).rows;
  return [
    ...machines.rows.slice(0, EACH).map((row): Found => ({
      kind: "Machine",
      title: row.name,
      text: `${row.tag} · ${row.siteName}`,
      href: `/machines/${row.id}`,
    })),
    ...sites.rows
      .slice(0, EACH)
      .map((row): Found => ({ kind: "Site", title: row.name, text: row.customerName, href: `/sites/${row.id}` })),
    ...parts.map((row): Found => ({
      kind: "Part",
      title: row.name,
      text: `${quantity(row.onHand, row.unit)} in all`,
      href: `/stores/items/${encodeURIComponent(row.id)}`,
    })),
    ...places,
  ];
}
