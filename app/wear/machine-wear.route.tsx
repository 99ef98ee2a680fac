import { Link, redirect } from "react-router";

import { placeName } from "~/kit/place-name";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { getMachine } from "~/machines/machines.server";
import { useIsLead } from "~/people/use-me";
import { OnDay } from "~/ui/day";
import { FamilyGlyph } from "~/ui/family-glyph";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/machine-wear.route";
import { AgedParts } from "./aged-parts";
import { agedParts } from "./ages.server";
import { Criticality } from "./criticality";
import { setCriticality } from "./criticality.server";
import { machineWear } from "./machine-wear.server";
import { SlotWear } from "./slot-wear";
import { criticalitySchema } from "./wear-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Wear of ${data.machine.name}`, "Wear of a machine") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const { machine, site } = await getMachine(params.machineId);
    const { id, name, tag, family, criticality } = machine;
    const now = new Date();
    const wear = await machineWear(machine, now);
    const measured = new Set([...wear.slots.map(({ row }) => row.slot), ...wear.unread.map((one) => one.slot)]);
    return {
      machine: { id, name, tag, family, criticality },
      siteName: site.name,
      ...wear,
      aged: await agedParts(machine, measured, now),
    };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    criticality: form(criticalitySchema, async ({ criticality }, who, now) => {
      await setCriticality(who, args.params.machineId, criticality, now);
      return redirect(`/machines/${args.params.machineId}/wear`);
    }),
  });
}

/** A machine's parts: how far each is worn, and whether the next visit is early enough. */
export default function MachineWear({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, siteName, slots, unread, aged } = loaderData;
  const lead = useIsLead();
  return (
    <>
      <PageHead
        back={<Link to={`/machines/${machine.id}`}>{machine.name}</Link>}
        mark={<FamilyGlyph family={machine.family} size={56} />}
        title={`Wear of ${machine.name}`}
        subtitle={
          <>
            <span className="figure">{machine.tag}</span>, {siteName}
          </>
        }
      >
        <Link to="/machines/wear" className="btn">
          Wear of all machines
        </Link>
      </PageHead>
      <div className="space-y-5">
        {slots.length === 0 && (
          <div className="panel p-6">
            <p className="text-lg font-semibold">Nothing is measured yet.</p>
            <p className="mt-1">
              {unread.length > 0
                ? "Its sheets measure parts; their first values will stand here."
                : "None of its sheets measures a part that wears."}
            </p>
          </div>
        )}
        {slots.map((slot) => (
          <SlotWear key={slot.row.id} slot={slot} />
        ))}
        {unread.length > 0 && (
          <Section id="unread" title="Not measured since it went in" panel>
            <ul className="list-disc pl-5">
              {unread.map((one) => (
                <li key={one.slot}>
                  {placeName(one.itemName, one.slotName)}
                  {one.fittedOn !== null && (
                    <>
                      {" "}
                      – new since <OnDay on={one.fittedOn} />
                    </>
                  )}
                </li>
              ))}
            </ul>
          </Section>
        )}
        <AgedParts parts={aged} />
        {lead && <Criticality now={machine.criticality} answer={actionData} />}
      </div>
    </>
  );
}
