import { Form, Link, redirect } from "react-router";

import { form, formAction } from "~/kit/server/form-action.server";
import { seenOf } from "~/kit/server/meanwhile.server";
import { served } from "~/kit/server/served.server";
import { AreaField, SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Seen } from "~/ui/seen";
import { titleOf } from "~/ui/title-of";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/site-edit.route";
import { DUST } from "./dust";
import { parseContacts, parseSharedPlaces, sharedPlacesText, siteSchema } from "./site-schemas";
import { changeSite, contactLines, getSite, SITE_WORDS } from "./sites.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Change ${data.site.name}`, "Change site") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const { site } = await getSite(params.siteId, new Date());
    return { site, contacts: contactLines(site.contacts), seen: seenOf(site, SITE_WORDS) };
  });
}

export function action(args: Route.ActionArgs) {
  const { siteId } = args.params;
  return formAction(args, {
    site: form(siteSchema, async ({ seen, ...value }, who, now) => {
      const { contacts, latitude, longitude, waterHardness, holidayRegion, sharedPlaces, ...rest } = value;
      const settings = {
        ...rest,
        contacts: parseContacts(contacts),
        sharedPlaces: parseSharedPlaces(sharedPlaces),
        latitude: latitude ?? null,
        longitude: longitude ?? null,
        waterHardness: waterHardness ?? null,
        holidayRegion: holidayRegion ?? "",
      };
      await changeSite(who, siteId, settings, now, seen);
      return redirect(`/sites/${siteId}`);
    }),
  });
}

export default function SiteEdit({ loaderData, actionData }: Route.ComponentProps) {
  const { site, contacts, seen } = loaderData;
  const [siteForm, fields] = useCheckedForm(siteSchema, actionData, {
    form: "site",
    defaultValue: {
      ...site,
      contacts,
      sharedPlaces: sharedPlacesText(site.sharedPlaces),
      latitude: site.latitude ?? "",
      longitude: site.longitude ?? "",
      waterHardness: site.waterHardness ?? "",
    },
  });
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={
          <>
            <Link to={`/sites/${site.id}`}>{site.name}</Link>
          </>
        }
        title="Change the site"
      />
      <Form
        method="post"
        id={siteForm.id}
        onSubmit={siteForm.onSubmit}
        noValidate={siteForm.noValidate}
        className="panel p-4"
      >
        {siteForm.errors && <Notice tone="problem">{siteForm.errors.join(" ")}</Notice>}
        <Seen seen={seen} answer={actionData} form="site" />
        <TextField field={fields.name} label="Name" />
        <TextField field={fields.address} label="Address" />
        <TextField
          field={fields.accessHours}
          label="Access"
          hint="Such as 05:30-09:00, or Mon-Fri 07:00-11:30, 14:00-18:00; Sat 08:00-12:00; Sun closed. “closed” means the site stands still."
        />
        <div className="grid gap-x-4 sm:grid-cols-2">
          <TextField field={fields.timeZone} label="Time zone" hint="Decides what “today” is for its duties." />
          <TextField
            field={fields.holidayRegion}
            label="Public holidays of"
            hint="A country's two letters, such as PT. Empty: none."
          />
          <TextField field={fields.latitude} label="Latitude" inputMode="decimal" />
          <TextField field={fields.longitude} label="Longitude" inputMode="decimal" />
          <TextField
            field={fields.waterHardness}
            label="Water hardness, mg/L as CaCO₃"
            inputMode="decimal"
            hint="Hard water brings scale-related duties sooner."
          />
          <SelectField
            field={fields.dust}
            label="Dust in the air"
            hint="Held beside how machines there are found."
            options={DUST.map((one) => [one.id, one.name] as const)}
          />
        </div>
        <TextField
          field={fields.sharedPlaces}
          label="Shared by the machines"
          hint="Such as: sink 2; hood 1. A round takes one of each for granted when nothing is said."
        />
        <AreaField field={fields.drainRules} label="Where to drain" />
        <AreaField field={fields.wasteRules} label="Where waste goes" />
        <AreaField field={fields.contacts} label="Contacts" hint="One a line: name; role; phone; e-mail." />
        <AreaField field={fields.notes} label="Notes" />
        <SubmitButton>Save the site</SubmitButton>
      </Form>
    </div>
  );
}
