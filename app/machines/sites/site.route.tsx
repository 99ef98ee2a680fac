import { hardnessClass } from "@core";
import { Form, Link, redirect } from "react-router";

import { listDue } from "~/duties/due.server";
import { DueList } from "~/duties/due-list";
import { accessLines } from "~/kit/days/access-hours";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { FamilyGlyph, familyName } from "~/ui/family-glyph";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/site.route";
import { cancelClosureSchema, closureSchema } from "./site-schemas";
import { addClosure, cancelClosure, getSite } from "./sites.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.site.name ?? "Site"} – Humble Hound` },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const view = await getSite(params.siteId, now);
    return { ...view, due: (await listDue({ siteId: params.siteId, limit: 12 }, now)).rows };
  });
}

export function action(args: Route.ActionArgs) {
  const { siteId } = args.params;
  const here = `/sites/${siteId}`;
  return formAction(args, {
    "add-closure": form(closureSchema, async (closure, who, now) => {
      await addClosure(who, siteId, closure, now);
      return redirect(here);
    }),
    "cancel-closure": form(cancelClosureSchema, async ({ closure }, who, now) => {
      await cancelClosure(who, siteId, closure, now);
      return redirect(here);
    }),
  });
}

/** Access hours as understood; as they were typed where they are not. */
function hoursLines(text: string): string[] {
  try {
    return accessLines(text);
  } catch {
    return [text];
  }
}

export default function Site({ loaderData, actionData }: Route.ComponentProps) {
  const { site, today, closures, holidays, machines, machineCount, due } = loaderData;
  const lead = useIsLead();
  const rules: [string, string][] = [
    ["Draining", site.drainRules],
    ["Waste", site.wasteRules],
    ["Notes", site.notes],
  ];
  return (
    <>
      <p className="text-sm">
        <Link to="/machines">Machines</Link> · <Link to="/sites">Sites</Link>
      </p>
      <div className="mt-1 mb-5 flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-0">
          <h1 className="text-2xl wrap-anywhere">{site.name}</h1>
          <p className="text-ink-soft wrap-anywhere">
            {site.customerName}
            {site.address && ` · ${site.address}`}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Link to={`/ahead?site=${site.id}`} className="btn">
            Ahead here
          </Link>
          {lead && (
            <Link to={`/sites/${site.id}/edit`} className="btn">
              Change
            </Link>
          )}
          {lead && (
            <Link to={`/sites/${site.id}/calendar`} className="btn">
              Calendar
            </Link>
          )}
        </div>
      </div>
      <div className="grid gap-6 lg:grid-cols-[1fr_20rem]">
        <div className="min-w-0 space-y-7">
          <section aria-labelledby="due">
            <h2 id="due" className="mb-2 text-lg">
              Needs somebody
            </h2>
            {due.length === 0 ? <p className="panel p-4">Nothing for now.</p> : <DueList rows={due} />}
          </section>
          <section aria-labelledby="machines">
            <h2 id="machines" className="mb-2 text-lg">
              Machines <span className="figure text-sm font-normal text-ink-soft">{machineCount}</span>
            </h2>
            <ul className="panel divide-y divide-line">
              {machines.map((machine) => (
                <li key={machine.id} className="relative flex items-center gap-3 px-3 py-2 hover:bg-sunken">
                  <FamilyGlyph family={machine.family} />
                  <p className="min-w-0 flex-1 wrap-anywhere">
                    <Link to={`/machines/${machine.id}`} className="font-semibold after:absolute after:inset-0">
                      {machine.name}
                    </Link>
                    <span className="block text-sm text-ink-soft">
                      {familyName(machine.family)}
                      {machine.area && ` · ${machine.area}`}
                    </span>
                  </p>
                  <span className="figure text-sm">{machine.tag}</span>
                </li>
              ))}
            </ul>
            {machineCount > machines.length && (
              <p className="mt-2">
                <Link to={`/machines?site=${site.id}`}>Show all {machineCount}</Link>
              </p>
            )}
          </section>
        </div>
        <aside className="space-y-6">
          <dl className="panel divide-y divide-line px-4 py-1">
            <Fact name="Access">
              {hoursLines(site.accessHours).map((line) => (
                <span key={line} className="block">
                  {line}
                </span>
              ))}
            </Fact>
            <Fact name="Its own day">
              <span className="figure">{today}</span> ({site.timeZone})
            </Fact>
            {site.waterHardness !== null && (
              <Fact name="Water">
                <span className="figure">{site.waterHardness}</span> mg/L as CaCO₃, {hardnessClass(site.waterHardness)}
              </Fact>
            )}
            {site.latitude !== null && site.longitude !== null && (
              <Fact name="Position">
                <a className="figure" href={`geo:${site.latitude},${site.longitude}`}>
                  {site.latitude}, {site.longitude}
                </a>
              </Fact>
            )}
            {rules
              .filter(([, text]) => text)
              .map(([name, text]) => (
                <Fact key={name} name={name}>
                  <span className="whitespace-pre-line">{text}</span>
                </Fact>
              ))}
          </dl>
          {site.contacts.length > 0 && (
            <section className="panel p-4" aria-labelledby="contacts">
              <h2 id="contacts" className="mb-1 text-lg">
                Contacts
              </h2>
              <ul className="divide-y divide-line">
                {site.contacts.map((one) => (
                  <li key={`${one.name}${one.phone}`} className="py-2 wrap-anywhere">
                    {one.name}
                    {one.role && <span className="text-ink-soft">, {one.role}</span>}
                    {one.phone && (
                      <a className="figure block min-h-11 py-2" href={`tel:${one.phone.replace(/[^+\d]/g, "")}`}>
                        {one.phone}
                      </a>
                    )}
                    {one.email && (
                      <a className="block min-h-11 py-2" href={`mailto:${one.email}`}>
                        {one.email}
                      </a>
                    )}
                  </li>
                ))}
              </ul>
            </section>
          )}
          <section className="panel p-4" aria-labelledby="closed">
            <h2 id="closed" className="mb-1 text-lg">
              Closed days
            </h2>
            {closures.length + holidays.length === 0 && (
              <p className="text-sm">None are known. Duties before standing idle come from them.</p>
            )}
            <ul className="text-sm">
              {closures.map((one) => (
                <li key={one.id} className="flex flex-wrap items-center justify-between gap-x-2">
                  <span>
                    <span className="figure">
                      {one.fromOn === one.toOn ? one.fromOn : `${one.fromOn} to ${one.toOn}`}
                    </span>{" "}
                    {one.reason}
                  </span>
                  <Form method="post">
                    <input type="hidden" name="intent" value="cancel-closure" />
                    <input type="hidden" name="closure" value={one.id} />
                    <button className="min-h-11 underline" aria-label={`Cancel the closure from ${one.fromOn}`}>
                      Cancel
                    </button>
                  </Form>
                </li>
              ))}
              {holidays.map((one) => (
                <li key={one.on} className="py-1">
                  <span className="figure">{one.on}</span> {one.name}
                </li>
              ))}
            </ul>
            <ClosureForm answer={actionData} />
          </section>
        </aside>
      </div>
    </>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="py-2">
      <dt className="text-sm text-ink-soft">{name}</dt>
      <dd className="wrap-anywhere">{children}</dd>
    </div>
  );
}

function ClosureForm({ answer }: { answer: FormAnswer | undefined }) {
  const [form, fields] = useCheckedForm(closureSchema, answer, { form: "add-closure" });
  return (
    <details className="mt-2" open={answer?.form === "add-closure"}>
      <summary className="inline-block min-h-11 py-2 underline decoration-dotted underline-offset-4">
        Add a closure
      </summary>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <TextField field={fields.fromOn} label="First closed day" type="date" />
        <TextField field={fields.toOn} label="Last closed day" type="date" />
        <TextField field={fields.reason} label="Why" />
        <SubmitButton>Add it</SubmitButton>
      </Form>
    </details>
  );
}
