import type { Role } from "@db";

import { quantity } from "~/kit/forms/quantity";
import { listMachines } from "~/machines/machines.server";
import { findSites } from "~/machines/sites/sites.server";
import { listItems } from "~/stores/items/catalogue.server";
import { familyName } from "~/ui/family-names";

import * as sql from "./find.sql";

export interface Found {
  kind: "Machine" | "Site" | "Address" | "Part" | "Procedure" | "Record" | "Person" | "Place";
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

/** Whatever has words that begin like the text, or is the record of that number: a few short queries side by side. */
export async function findAnything(text: string, role: Role): Promise<Found[]> {
  const q = text.trim().slice(0, 80);
  const places = PLACES.filter(
    ([title, , lead]) => (!lead || role === "lead") && title.toLowerCase().includes(q.toLowerCase()),
  ).map(([title, href]): Found => ({ kind: "Place", title, text: "", href }));
  if (q === "") return places;
  const number = /^(?:no\.? ?)?(\d{1,9})$/i.exec(q)?.[1];
  const [machines, sites, addresses, { rows: parts }, procedures, people, records] = await Promise.all([
    listMachines({ q }),
    findSites({ q, after: null }),
    sql.sitesByAddress(q, EACH),
    listItems({ q, after: null, limit: EACH }),
    sql.proceduresLike(q, EACH),
    // Their page is for leads.
    role === "lead" ? sql.peopleLike(q, EACH) : [],
    number === undefined ? [] : sql.recordOfNumber(Number(number)),
  ]);
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
    ...addresses.map((row): Found => ({
      kind: "Address",
      title: row.address,
      text: row.name,
      href: `/sites/${row.id}`,
    })),
    ...records.map((row): Found => ({
      kind: "Record",
      title: `No. ${number}: ${row.title}`,
      text: row.machineName,
      href: `/book/records/${row.id}`,
    })),
    ...procedures.map((row): Found => ({
      kind: "Procedure",
      title: row.title,
      text: row.family === "any" ? "" : familyName(row.family),
      href: `/book/procedures/${encodeURIComponent(row.id)}`,
    })),
    ...people.map((row): Found => ({ kind: "Person", title: row.name, text: row.role, href: "/book/people" })),
    ...parts.map((row): Found => ({
      kind: "Part",
      title: row.name,
      text: `${quantity(row.onHand, row.unit)} in all`,
      href: `/stores/items/${encodeURIComponent(row.id)}`,
    })),
    ...places,
  ];
}
