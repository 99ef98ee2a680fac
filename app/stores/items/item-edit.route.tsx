import { Form, Link, redirect } from "react-router";

import { GONE } from "~/kit/forms/fields";
import { Refusal } from "~/kit/refusal";
import { form, formAction } from "~/kit/server/form-action.server";
import { seenOf } from "~/kit/server/meanwhile.server";
import { served } from "~/kit/server/served.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { PlainField, PlainSelect } from "~/ui/plain-field";
import { Seen } from "~/ui/seen";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/item-edit.route";
import { getItem, type Item, ITEM_WORDS, itemsMeant, listSuppliers, saveItem } from "./catalogue.server";
import { refreshOutlook } from "./outlook.server";
import { itemsById } from "./overview.server";
import { itemSchema } from "./stores-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, ({ item }) => (item ? `Change ${item.name}` : "Add an item"), "Item") },
];

const NEW = "new";

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const item = params.itemId === NEW ? null : await getItem(params.itemId);
    const alternatives = [...(await itemsById(item?.alternatives ?? [])).values()].map(({ id, name }) => ({
      id,
      name,
    }));
    const seen = item && seenOf(item, ITEM_WORDS);
    return { item, seen, alternatives, suppliers: await listSuppliers() };
  });
}

export function action(args: Route.ActionArgs) {
  const { itemId } = args.params;
  return formAction(args, {
    item: form(itemSchema, async ({ seen, price, alternatives, ...values }, who, now) => {
      const before = itemId === NEW ? null : await getItem(itemId);
      if (before && !seen) throw new Refusal(422, "seen", GONE);
      const settings = {
        ...values,
        packName: values.packName ?? "",
        shelfLifeDays: values.shelfLifeDays ?? null,
        storage: values.storage ?? "",
        alternatives: await itemsMeant(alternatives ?? "", "alternatives"),
        packPriceCents: price === undefined ? null : Math.round(price * 100),
        supplierId: values.supplierId ?? null,
        orderCode: values.orderCode ?? "",
        leadDays: values.leadDays ?? null,
        scanCode: values.scanCode ?? null,
        active: before?.active ?? true,
      };
      const id = await saveItem(who, before?.id ?? null, settings, now, seen ?? null);
      await refreshOutlook(now, [id]);
      return redirect(`/stores/items/${encodeURIComponent(id)}`);
    }),
  });
}

const KINDS = (["part", "consumable", "chemical", "tool", "protective"] as const).map((id) => ({
  id,
  name: { part: "Part", consumable: "Consumable", chemical: "Chemical", tool: "Tool", protective: "Protection" }[id],
}));
const HAZARDS = ["chemical", "flammable", "pressure", "sharp", "heavy", "biohazard", "hot"];
const BLANK: Item = {
  id: "",
  name: "",
  kind: "part",
  unit: "pc",
  packSize: 1,
  packName: "",
  usesPerPiece: 1,
  shelfLifeDays: null,
  hazards: [],
  storage: "",
  alternatives: [],
  packPriceCents: null,
  supplierId: null,
  orderCode: "",
  leadDays: null,
  needsSerial: false,
  scanCode: null,
  active: true,
};

export default function StoreItemEdit({ loaderData, actionData }: Route.ComponentProps) {
  const { alternatives } = loaderData;
  const item = loaderData.item ?? BLANK;
  const errors: Record<string, string[]> = actionData?.errors ?? {};
  const text = (
    name: Extract<keyof Item, string>,
    label: string,
    value: string | number | null,
    more: { hint?: string; inputMode?: "decimal" | "numeric" } = {},
  ) => (
    <PlainField
      id={name}
      name={name}
      label={label}
      defaultValue={value === null ? "" : String(value)}
      answer={errors[name]}
      {...more}
    />
  );
  return (
    <div className="max-w-2xl">
      <PageHead
        back={
          <>
            <Link to={loaderData.item ? `/stores/items/${encodeURIComponent(item.id)}` : "/stores/items"}>
              {loaderData.item ? item.name : "Items"}
            </Link>
          </>
        }
        title={loaderData.item ? "Change the item" : "Add an item"}
      />
      <Form method="post" className="panel space-y-4 p-4">
        {actionData?.message && <Notice tone="problem">{actionData.message}</Notice>}
        {loaderData.seen && <Seen seen={loaderData.seen} answer={actionData} form="item" />}
        {text("name", "Name", item.name)}
        <div className="grid gap-4 sm:grid-cols-3">
          <PlainSelect
            id="kind"
            name="kind"
            label="What it is"
            options={KINDS}
            defaultValue={item.kind}
            answer={errors.kind}
          />
          {text("unit", "Counted in", item.unit, { hint: "pc, mL, g" })}
          {text("usesPerPiece", "Uses of a piece", item.usesPerPiece, {
            inputMode: "numeric",
            hint: "A four-edged blade: 4",
          })}
        </div>
        <div className="grid gap-4 sm:grid-cols-3">
          {text("packSize", "A pack holds", item.packSize, { inputMode: "decimal", hint: "In the unit above" })}
          {text("packName", "Pack", item.packName, { hint: "Such as: 5 L can" })}
          <PlainField
            id="price"
            name="price"
            label="Price of a pack"
            hint="Euros"
            inputMode="decimal"
            defaultValue={item.packPriceCents === null ? "" : (item.packPriceCents / 100).toFixed(2)}
            answer={errors.price}
          />
        </div>
        <div className="grid gap-4 sm:grid-cols-3">
          <PlainSelect
            id="supplierId"
            name="supplierId"
            label="Supplier"
            empty="None yet"
            options={loaderData.suppliers}
            defaultValue={item.supplierId ?? ""}
            answer={errors.supplierId}
          />
          {text("orderCode", "Supplier's code", item.orderCode)}
          {text("leadDays", "Days to come", item.leadDays, { inputMode: "numeric" })}
        </div>
        <div className="grid gap-4 sm:grid-cols-3">
          {text("scanCode", "Code on it", item.scanCode, { hint: "Scan it into this field" })}
          {text("shelfLifeDays", "Keeps, days", item.shelfLifeDays, { inputMode: "numeric" })}
          <label className="flex items-end gap-2 pb-2">
            <input type="checkbox" name="needsSerial" defaultChecked={item.needsSerial} className="size-6 shrink-0" />
            Ordered by model and serial
          </label>
        </div>
        {text("storage", "How it is kept", item.storage)}
        <PlainField
          id="alternatives"
          label="What would also do"
          hint="One item a line: its name or code; a scanner types the code."
          answer={errors.alternatives}
        >
          <textarea
            id="alternatives"
            name="alternatives"
            rows={3}
            className="field"
            defaultValue={alternatives.map((one) => one.name).join("\n")}
            aria-describedby={`alternatives-hint${errors.alternatives ? " alternatives-error" : ""}`}
          />
        </PlainField>
        <Hazards chosen={item.hazards} />
        <button className="btn btn-main">Save the item</button>
      </Form>
    </div>
  );
}

function Hazards({ chosen }: { chosen: readonly string[] }) {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Watch out</legend>
      <div className="flex flex-wrap gap-x-5">
        {HAZARDS.map((hazard) => (
          <label key={hazard} className="flex min-h-10 items-center gap-2">
            <input
              type="checkbox"
              name="hazards"
              value={hazard}
              defaultChecked={chosen.includes(hazard)}
              className="size-5"
            />
            {hazard}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
