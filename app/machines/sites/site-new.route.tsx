import { Form, Link, redirect } from "react-router";

import { depotPlace } from "~/kit/days/depot.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/site-new.route";
import { addSite, customerNames } from "./new-site.server";
import { newSiteQuerySchema, newSiteSchema } from "./site-schemas";

export const meta: Route.MetaFunction = () => [{ title: "Add a site – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { tag = "" } = readQuery(request, newSiteQuerySchema);
    const [customers, depot] = await Promise.all([customerNames(), depotPlace()]);
    return { customers, tag, timeZone: depot?.timeZone ?? "" };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    site: form(newSiteSchema, async ({ tag, ...site }, who, now) => {
      await addSite(who, site, now);
      // A site is added for the machines that stand there.
      const query = new URLSearchParams({ site: `${site.name}, ${site.customer}`, ...(tag === "" ? {} : { tag }) });
      return redirect(`/machines/new?${query}`);
    }),
  });
}

export default function SiteNew({ loaderData, actionData }: Route.ComponentProps) {
  const { customers, tag, timeZone } = loaderData;
  const lead = useIsLead();
  const [form, fields] = useCheckedForm(newSiteSchema, actionData, {
    form: "site",
    id: "new-site",
    defaultValue: { timeZone, tag },
  });
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link> · <Link to="/sites">Sites</Link>
          </>
        }
        title="Add a site"
        subtitle={lead ? undefined : "A lead looks over what you have added."}
      />
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate} className="panel p-4">
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="tag" value={tag} />
        <TextField
          field={fields.customer}
          label="Customer"
          hint="One of the list, or a new name."
          list="customers"
          autoComplete="off"
        />
        <datalist id="customers">
          {customers.map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <TextField field={fields.name} label="Site" hint="Such as School kitchen, or Ferry terminal." />
        <TextField field={fields.address} label="Address" />
        <TextField
          field={fields.accessHours}
          label="When one gets in"
          hint="Such as 05:30-09:00, or Mon-Fri 07:00-18:00; Sat 08:00-12:00. Empty: at any time."
        />
        <TextField field={fields.timeZone} label="Time zone" hint="Decides what “today” is there." />
        <SubmitButton>Add the site</SubmitButton>
      </Form>
    </div>
  );
}
