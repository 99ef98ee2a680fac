import { must } from "@core";

import { getDuty } from "~/duties/due.server";
import type { Actor } from "~/kit/actor";

import { addActor, dutyOf, freshDatabase, importLines, publishShipped } from "./database";

/** A Wednesday. */
export const NOW = new Date("2026-06-10T09:00:00Z");
export const day = (days: number): Date => new Date(NOW.getTime() + days * 86_400_000);
export let ada: Actor;
let lead: Actor;

const MACHINES: [tag: string, family: string, options: string][] = [
  ["chiller-central", "recirculating-chiller", "central"],
  ["chiller-portable", "recirculating-chiller", ""],
  ["mass-spec", "mass-spectrometer", ""],
  ["flatbed", "flatbed-uv-printer", ""],
  ["toaster", "conveyor-toaster", ""],
  ["toaster-two", "conveyor-toaster", "two-lane"],
  ["scrubber", "ride-on-scrubber", ""],
  ["stainer", "slide-stainer", ""],
  ["ice", "flake-ice-maker", "water-filter"],
  ["plotter", "wide-format-printer", ""],
  ["lathe", "cnc-lathe", ""],
  ["cabinet", "prep-cabinet", "wick-pad"],
  ["cabinet-front", "prep-cabinet", "front-breathing"],
  ["steriliser", "steam-steriliser", ""],
  ["analyser", "chemistry-analyser", ""],
  ["icp", "icp-spectrometer", ""],
  ["icp-oil", "icp-spectrometer", "organics"],
  ["oven", "conveyor-oven", ""],
  ["soft-serve", "soft-serve-freezer", ""],
  ["soft-serve-two", "soft-serve-freezer", "two-sides|rear-pan"],
  ["cards", "card-printer", ""],
  ["cards-fan", "card-printer", "rear-fan"],
  ["tunnel", "wash-tunnel-conveyor", "rinse-system"],
  ["sweeper", "ride-on-sweeper", "side-brooms"],
  ["mill", "dental-mill", ""],
];

/** A machine of each family, or of each kind of it, with all that is shipped for it. */
export async function beginFamilies(): Promise<void> {
  await freshDatabase();
  await publishShipped("all");
  [ada, lead] = [await addActor("Ada"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    MACHINES.map(
      ([tag, family, options]) =>
        `Co,Site,,Europe/Lisbon,,"Mon-Fri 06:00-20:00; Sat, Sun closed",Hall,${tag},Machine ${tag},${family},${options},2026-06-01`,
    ),
    day(-9),
  );
}

export const duty = async (tag: string, procedureId: string, at = NOW) =>
  must(await getDuty(await dutyOf(tag, procedureId), at)).row;
export const shownSteps = (state: { steps: Record<string, unknown> }): string[] => Object.keys(state.steps);
