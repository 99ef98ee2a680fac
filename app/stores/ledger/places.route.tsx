import { must } from "@core";
import { Form, Link, redirect } from "react-router";

import { formAction, leadForm } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { listSites } from "~/machines/sites/sites.server";
import { listWorkers } from "~/people/people.server";
import { useIsLead } from "~/people/use-me";
import { StoreNav } from "~/stores/items/store-nav";
import { placeSchema } from "~/stores/items/stores-schemas";
import { PageHead } from "~/ui/page-head";
import { PlainField, PlainSelect } from "~/ui/plain-field";

import type { Route } from "./+types/places.route";
import { addPlace, listPlaces } from "./places.server";

export const meta = () => [{ title: "Places – Humble Hound" }];

export function loader() {
  return served(async () => {
    return { places: await listPlaces(), people: await listWorkers(), sites: await listSites() };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    place: leadForm("Only a lead adds places.", placeSchema, async ({ kind, name, personId, siteId }, who, now) => {
      const place = { kind, name, personId: personId ?? null, siteId: siteId ?? null };
      return redirect(`/stores/places/${await addPlace(who, place, now)}`);
    }),
  });
}

const KINDS = [
  { id: "van", name: "Van" },
  { id: "depot", name: "Depot" },
  { id: "shelf", name: "Customer's shelf" },
];

export default function StorePlaces({ loaderData, actionData }: Route.ComponentProps) {
  const { places, people, sites } = loaderData;
  const lead = useIsLead();
  const errors = actionData?.errors ?? {};
  return (
    <div className="max-w-3xl">
      <PageHead title="Places" />
      <StoreNav />
      {places.length === 0 ? (
        <p className="panel mb-5 p-5">
          No places yet. Add the depot and a van for each technician: what sheets use is then taken from there.
        </p>
      ) : (
        <ul className="panel mb-5 divide-y divide-line">
          {places.map((place) => (
            <li key={place.id} className="px-4 py-2.5">
              <Link to={`/stores/places/${place.id}`} className="font-semibold wrap-anywhere">
                {place.name}
              </Link>
              <p className="text-sm text-ink-soft wrap-anywhere">
                {must(KINDS.find((kind) => kind.id === place.kind)).name}
                {place.personName && ` of ${place.personName}`}
                {place.siteName && ` at ${place.siteName}`}
              </p>
            </li>
          ))}
        </ul>
      )}
      {lead && (
        <Form method="post" className="panel space-y-3 p-4">
          <h2 className="text-lg">Add a place</h2>
          <PlainField id="p-name" name="name" label="Name" maxLength={160} answer={errors.name} />
          <PlainSelect id="p-kind" name="kind" label="What it is" options={KINDS} answer={errors.kind} />
          <PlainSelect
            id="p-person"
            name="personId"
            label="Whose van"
            empty="Nobody's own"
            options={people}
            answer={errors.personId}
          />
          <PlainSelect
            id="p-site"
            name="siteId"
            label="At which site, for a shelf"
            empty="None"
            options={sites}
            answer={errors.siteId}
          />
          <button className="btn btn-main">Add the place</button>
        </Form>
      )}
    </div>
  );
}
