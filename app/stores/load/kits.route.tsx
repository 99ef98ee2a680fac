import { redirect } from "react-router";

import { GONE } from "~/kit/forms/fields";
import { editSchema } from "~/kit/forms/search-schemas";
import { toNumber } from "~/kit/forms/to-number";
import { Refusal } from "~/kit/refusal";
import { formAction, leadForm } from "~/kit/server/form-action.server";
import { seenOf } from "~/kit/server/meanwhile.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { listProcedures } from "~/procedures/procedures.server";
import { itemsMeant } from "~/stores/items/catalogue.server";
import { StoreNav } from "~/stores/items/store-nav";
import { kitSchema } from "~/stores/items/stores-schemas";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/kits.route";
import { KitForm, KitPanel } from "./kit-parts";
import { KIT_WORDS, kitSettings, listKits, saveKit } from "./kits.server";

export const meta = () => [{ title: "Kits – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const kits = await listKits();
    const edited = kits.find((kit) => kit.id === readQuery(request, editSchema).edit) ?? null;
    const seen =
      edited &&
      seenOf(
        kitSettings({ ...edited, items: edited.items.map(({ itemId, full }) => ({ itemId, qty: full })) }),
        KIT_WORDS,
      );
    return { kits, procedures: await listProcedures(), edited, seen };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    kit: leadForm("Only a lead puts kits together.", kitSchema, async ({ kit, seen, contents, ...given }, who, now) => {
      if (kit && !seen) throw new Refusal(422, "seen", GONE);
      await saveKit(who, kit ?? null, { ...given, items: await kitItems(contents) }, now, seen ?? null);
      return redirect("/stores/kits");
    }),
  });
}

/** A kit's contents as they are typed: a quantity, then the item, one a line. */
async function kitItems(contents: string): Promise<{ itemId: string; qty: number }[]> {
  const items: { itemId: string; qty: number }[] = [];
  for (const line of contents.split("\n").map((one) => one.trim())) {
    if (line === "") continue;
    const [first = "", ...rest] = line.split(/\s+/);
    const qty = toNumber(first);
    if (qty === null || qty <= 0 || rest.length === 0)
      throw new Refusal(422, "contents", `“${line}”: write a quantity, then the item.`);
    const [itemId = ""] = await itemsMeant(rest.join(" "), "contents");
    items.push({ itemId, qty });
  }
  return items;
}

export default function StoreKits({ loaderData, actionData }: Route.ComponentProps) {
  const { kits, procedures, edited, seen } = loaderData;
  const lead = useIsLead();
  return (
    <div className="max-w-4xl">
      <PageHead title="Kits" />
      <StoreNav />
      {kits.length === 0 && (
        <p className="panel mb-5 p-5">
          No kits yet. A kit is what one box should hold for a procedure; the first item to run out decides when to
          order.
        </p>
      )}
      {kits.map((kit) => (
        <KitPanel key={kit.id} kit={kit} lead={lead} />
      ))}
      <KitForm lead={lead} edited={edited} seen={seen} answer={actionData} procedures={procedures} />
    </div>
  );
}
