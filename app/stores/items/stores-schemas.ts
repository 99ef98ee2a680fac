import * as yup from "yup";

import {
  cursor,
  day,
  GONE,
  hiddenId,
  id,
  key,
  listOf,
  oneText,
  quantity,
  seen,
  text,
  ticked,
  whole,
} from "~/kit/forms/fields";

/** What the forms of the stores may send. */

const item = text(160).required("Scan or type an item.");
const place = id().required("Choose a place.");
const positive = quantity().moreThan(0, "More than nothing.").required("Type how much.");
const lot = text(60);
const note = text(300);

export const receiveSchema = yup.object({ place, qty: positive, lot, expiresOn: day(), note });
export const moveSchema = yup.object({ from: place, to: place, qty: positive, note });
export const scrapSchema = yup.object({
  place,
  qty: positive,
  lot: id(),
  note: note.required("Say why it is thrown away."),
});
export const addPacksSchema = yup.object({ packs: whole(1, 10_000).required("How many packs?") });

/** Addresses of the stores' pages. */
export const beforeSchema = yup.object({ before: whole(1, Number.MAX_SAFE_INTEGER) });
export const placeSearchSchema = yup.object({ count: key(), counts: text(5), difference: text(400), after: cursor() });
export const needSchema = yup.object({ days: whole(0, 366, "Whole days, please.") });
export const costSearchSchema = yup.object({
  by: yup.string().oneOf(["machine", "site", "family"] as const),
  from: day(),
  to: day(),
});

export const findItemSchema = yup.object({ item });

/** What was counted, lot by lot; a row without a lot is what lies there without one. */
export const countSchema = yup.object({
  itemId: key().required(GONE).meta({ hidden: true }),
  found: yup
    .array(yup.object({ lot: id(), qty: quantity().min(0, "Type what is there, 0 for nothing.") }))
    .max(500, "At most 500 lots in one go.")
    .required("Type what is there."),
  note,
});

export const placeSchema = yup.object({
  kind: yup
    .string()
    .oneOf(["van", "depot", "shelf"] as const, "Choose what it is.")
    .required("Choose what it is."),
  name: text(160).required("Give it a name."),
  personId: id(),
  siteId: id(),
});

export const itemSchema = yup.object({
  seen: seen(),
  name: text(160).required("Give it a name."),
  kind: yup
    .string()
    .oneOf(["part", "consumable", "chemical", "tool", "protective"] as const, "Choose what it is.")
    .required("Choose what it is."),
  unit: text(16).required("Say what it is counted in: pc, mL, g."),
  packSize: positive,
  packName: text(60),
  usesPerPiece: whole(1, 1000).required("At least 1."),
  shelfLifeDays: whole(1, 20_000),
  storage: note,
  alternatives: text(600),
  hazards: listOf(text(60).required(), 40).default([]),
  price: quantity().min(0, "Not below nothing."),
  supplierId: id(),
  orderCode: text(60),
  leadDays: whole(0, 1000),
  needsSerial: ticked(),
  scanCode: oneText()
    .trim()
    .matches(/^[\x21-\x7e]+$/, "Letters, digits and signs without spaces.")
    .max(64, "A code is shorter."),
});

export const supplierSchema = yup.object({
  name: text(160).required("Give it a name."),
  email: text(160).email("Write an e-mail address."),
  leadDays: whole(0, 1000).required("How many days until it comes?"),
  online: ticked(),
});

const tag = oneText().trim().uppercase().max(32, "A tag is shorter.");

export const addLineSchema = yup.object({ item, packs: whole(1, 10_000).required("How many packs?"), tag });
export const lineSchema = yup.object({
  line: hiddenId(),
  packs: whole(0, 10_000).required("How many packs?"),
  tag,
});

/** What has arrived of an order's lines. */
export const arrivedSchema = yup.object({
  lines: yup
    .array(
      yup.object({
        line: hiddenId(),
        packs: whole(0, 10_000, "Whole packs, please.").default(0),
        lot,
        expiresOn: day(),
      }),
    )
    .max(500, "At most 500 lines in one go.")
    .required("Say how many packs have arrived."),
});

export const kitSchema = yup.object({
  kit: id(),
  seen: seen(),
  name: text(160).required("Give it a name."),
  procedureId: key().required("Choose the procedure it is for."),
  contents: text(4000).required("One item a line: quantity, then the item."),
});

export const rateSchema = yup.object({
  rate: quantity()
    .min(0, "Type euros for an hour, such as 60.")
    .max(10_000, "Type euros for an hour, such as 60.")
    .required("Type euros for an hour, such as 60."),
});
