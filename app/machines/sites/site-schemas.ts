import { must } from "@core";
import * as yup from "yup";

import { parseAccessHours } from "~/kit/days/access-hours";
import { day as dayField, GONE, hiddenId, number, oneText, seen, text, timeZone } from "~/kit/forms/fields";
import { understood } from "~/kit/forms/understood";

/** Shared places as people write them: `sink 2; hood 1`. A name alone is one of it. */
export function parseSharedPlaces(text: string): Record<string, number> {
  const places: Record<string, number> = {};
  for (const part of text
    .split(";")
    .map((one) => one.trim().toLowerCase())
    .filter(Boolean)) {
    const found = /^([a-z][a-z-]{0,39})(?:\s+(\d{1,2}))?$/.exec(part);
    if (!found) throw new Error(`"${part}" is not understood. Write for example: sink 2; hood 1.`);
    places[must(found[1])] = Number(found[2] ?? 1);
  }
  return places;
}

export function sharedPlacesText(places: Record<string, number>): string {
  return Object.entries(places)
    .map(([name, count]) => `${name} ${count}`)
    .join("; ");
}

/** Contacts are typed one a line: name; role; phone; e-mail. */
export function parseContacts(lines: string): { name: string; role: string; phone: string; email: string }[] {
  return lines
    .split("\n")
    .map((line) => line.split(";").map((part) => part.trim()))
    .filter((parts) => parts.some((part) => part !== ""))
    .map(([name = "", role = "", phone = "", email = ""]) => ({ name, role, phone, email }));
}

export const siteSchema = yup.object({
  seen: seen().required(GONE),
  name: text(160).required("Give the site a name."),
  address: text(300).default(""),
  timeZone: timeZone().required("Give the time zone."),
  latitude: number("Type degrees, such as 38.53.").min(-90, "Latitude is −90 to 90.").max(90, "Latitude is −90 to 90."),
  longitude: number("Type degrees, such as -28.62.")
    .min(-180, "Longitude is −180 to 180.")
    .max(180, "Longitude is −180 to 180."),
  accessHours: text(200).default("").test("hours", understood(parseAccessHours)),
  waterHardness: number("Type mg/L as calcium carbonate.")
    .min(0, "Hardness is zero or more.")
    .max(2000, "That is more than any water has."),
  dust: yup
    .string()
    .oneOf(["little", "usual", "much"] as const, "Choose how dusty it is.")
    .default("usual"),
  holidayRegion: oneText()
    .trim()
    .uppercase()
    .matches(/^[A-Z]{2}(-[A-Z0-9]{1,3})?$/, {
      message: "Write a country's two letters, such as PT, or with a part of it, PT-30.",
      excludeEmptyString: true,
    }),
  sharedPlaces: text(300).default("").test("places", understood(parseSharedPlaces)),
  drainRules: text(2000).default(""),
  wasteRules: text(2000).default(""),
  contacts: text(4000).default(""),
  notes: text(4000).default(""),
});

export const newSiteSchema = yup.object({
  customer: text(160).required("Say whose site it is."),
  name: text(160).required("Give the site a name."),
  address: text(300).default(""),
  accessHours: text(200).default("").test("hours", understood(parseAccessHours)),
  timeZone: timeZone().required("Give the time zone, such as Europe/Lisbon."),
  /** Of the machine that it is added for. */
  tag: text(32).default("").meta({ hidden: true }),
});

export const newSiteQuerySchema = yup.object({ tag: text(32) });

const day = dayField("Choose a day.").required("Choose a day.");

export const closureSchema = yup.object({
  fromOn: day,
  toOn: day,
  reason: text(200).required("Say why, such as winter break."),
});

export const cancelClosureSchema = yup.object({ closure: hiddenId() });
