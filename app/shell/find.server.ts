import type { Role } from "@db";

import { quantity } from "~/kit/forms/quantity";
import { likeText } from "~/kit/server/like-text.server";
import { listMachines } from "~/machines/machines.server";
import { findSites } from "~/machines/sites/sites.server";
import { listItems } from "~/stores/items/catalogue.server";
import { familyName } from "~/ui/family-names";

import * as sql from "./find.sql";

export interface Found {
  kind: "Machine" | "Duty" | "Site" | "Address" | "Part" | "Procedure" | "Record" | "Person" | "Place";
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
  ["Faults", "/machines/faults"],
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
  const [machines, sites, addresses, { rows: parts }, procedures, people, records, duties] = await Promise.all([
    listMachines({ q }),
    findSites({ q, after: null }),
    sql.sitesByAddress(q, EACH),
    listItems({ q, after: null, limit: EACH }),
    sql.proceduresLike(q, EACH),
    // Their page is for leads.
    role === "lead" ? sql.peopleLike(q, EACH) : [],
    number === undefined ? [] : sql.recordOfNumber(Number(number)),
    findDuties(q),
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
    ...machines.rows
      .filter((row) => [row.tag, row.serial].some((one) => one.toLowerCase() === q.toLowerCase()))
      .map((row): Found => ({
        kind: "Record",
        title: `All records of ${row.tag}`,
        text: row.name,
        href: `/book?machine=${encodeURIComponent(row.tag)}`,
      })),
    ...duties.map((row): Found => ({
      kind: "Duty",
      title: row.title,
      text: `${row.machineName} · ${row.machineTag}`,
      href: `/duties/${row.id}`,
    })),
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

/** Titles that are looked at, and of each how many duties. */
const TITLES = 3;
const OF_EACH = 2;

/** Duties by the beginning of their title, the soonest of each; or by a machine's tag beside a word of the title. */
async function findDuties(q: string): Promise<sql.DutyFound[]> {
  const words = q.split(/\s+/);
  if (words.length > 1) {
    const [first = "", last = ""] = [words[0], words.at(-1)];
    const beside = await Promise.all([
      sql.dutiesOfTag({ tag: `${likeText(first)}%`, like: `% ${likeText(words.slice(1).join(" "))}%` }, EACH),
      sql.dutiesOfTag({ tag: `${likeText(last)}%`, like: `% ${likeText(words.slice(0, -1).join(" "))}%` }, EACH),
    ]);
    const found = beside.flat().slice(0, EACH);
    if (found.length > 0) return found;
  }
  const titles: string[] = [];
  for (let after = ""; titles.length < TITLES;) {
    const [next] = await sql.dutyTitleAfter({ after, like: `${likeText(q)}%` });
    if (!next) break;
    titles.push(next.title);
    after = next.title;
  }
  return titles.length === 0 ? [] : (await sql.soonestDuties(titles, OF_EACH)).slice(0, EACH);
}
