import * as yup from "yup";

import { DAY } from "~/kit/day-pattern";
import { oneOrMany, ticked } from "~/kit/parse-form";

const item = yup.string().trim().required("Scan or type an item.").max(160, "A name is shorter.");
const place = yup.string().required("Choose a place.").max(36);
const qty = yup
  .number()
  .transform((value: number, raw: unknown) => (typeof raw === "string" ? Number(raw.trim().replace(",", ".")) : value))
  .typeError("Type a number.")
  .max(10_000_000, "That is more than the books can hold.");
const positive = qty.moreThan(0, "More than nothing.").required("Type how much.");
const notNegative = qty.min(0, "Not below nothing.").required("Type how much.");
const lot = yup.string().trim().max(60, "A lot is shorter.");
const day = yup.string().trim().matches(DAY, "Write the day as YYYY-MM-DD.");
const note = yup.string().trim().max(300, "Keep it under 300 characters.");

export const receiveSchema = yup.object({ item, place, qty: positive, lot, expiresOn: day, note });
export const moveSchema = yup.object({ item, from: place, to: place, qty: positive, note });
export const scrapSchema = yup.object({
  item,
  place,
  qty: positive,
  lot: yup.string().max(36),
  note: note.required("Say why it is thrown away."),
});
export const countSchema = yup.object({ item, place, note });
export const countedQty = notNegative;
export const placeSchema = yup.object({
  kind: yup
    .string()
    .oneOf(["van", "depot", "shelf"] as const)
    .required("Choose what it is."),
  name: yup.string().trim().required("Give it a name.").max(160, "Keep it under 160 characters."),
  personId: yup.string().max(36),
  siteId: yup.string().max(36),
});

const whole = (least: number): yup.NumberSchema =>
  yup.number().typeError("Type a whole number.").integer("Whole numbers only.").min(least, `At least ${least}.`);

export const itemSchema = yup.object({
  name: yup.string().trim().required("Give it a name.").max(160, "Keep it under 160 characters."),
  kind: yup
    .string()
    .oneOf(["part", "consumable", "chemical", "tool", "protective"] as const)
    .required("Choose what it is."),
  unit: yup.string().trim().required("Say what it is counted in: pc, mL, g.").max(16, "A unit is shorter."),
  packSize: positive,
  packName: yup.string().trim().max(60, "Keep it under 60 characters."),
  usesPerPiece: whole(1).max(1000).required("At least 1."),
  shelfLifeDays: whole(1).max(20_000, "At most 20,000 days."),
  storage: note,
  alternatives: yup.string().trim().max(600),
  hazards: yup.array(yup.string().required()).transform(oneOrMany).default([]),
  price: qty.min(0, "Not below nothing."),
  supplierId: yup.string().max(36),
  orderCode: yup.string().trim().max(60, "A code is shorter."),
  leadDays: whole(0).max(1000, "At most 1,000 days."),
  needsSerial: ticked(),
  scanCode: yup
    .string()
    .trim()
    .matches(/^[\x21-\x7e]+$/, "Letters, digits and signs without spaces.")
    .max(64, "A code is shorter."),
});

export const supplierSchema = yup.object({
  name: yup.string().trim().required("Give it a name.").max(160, "Keep it under 160 characters."),
  email: yup.string().trim().email("Write an e-mail address.").max(160, "Keep it under 160 characters."),
  leadDays: whole(0).max(1000, "At most 1,000 days.").required("How many days until it comes?"),
  online: ticked(),
});

export const addLineSchema = yup.object({
  item,
  packs: whole(1).max(10_000, "At most 10,000 packs.").required("How many packs?"),
  tag: yup.string().trim().uppercase().max(32),
});
export const lineSchema = yup.object({
  line: yup.string().required().max(36),
  packs: whole(0).max(10_000, "At most 10,000 packs.").required("How many packs?"),
  tag: yup.string().trim().uppercase().max(32),
});
export const kitSchema = yup.object({
  kit: yup.string().max(36),
  name: yup.string().trim().required("Give it a name.").max(160, "Keep it under 160 characters."),
  procedureId: yup.string().required("Choose the procedure it is for.").max(80),
  contents: yup.string().trim().required("One item a line: quantity, then the item.").max(4000),
});
