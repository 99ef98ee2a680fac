import { hardnessClass } from "@core";
import { Form, Link } from "react-router";

import { accessLines } from "~/kit/days/access-hours";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { MachineList } from "~/machines/machine-list";
import { OnDay, useDayWords } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { FactList } from "~/ui/fact-list";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/site.route";
import { dustWords } from "./dust";
import { closureSchema } from "./site-schemas";

type Data = Route.ComponentProps["loaderData"];

export function SiteMachines({
  machineCount,
  machines,
  site,
}: {
  machineCount: Data["machineCount"];
  machines: Data["machines"];
  site: Data["site"];
}) {
  return (
    <Section
      id="machines"
      title={
        <>
          Machines <span className="figure text-sm font-normal text-ink-soft">{machineCount}</span>
        </>
      }
    >
      {machines.length === 0 ? (
        <p className="panel p-4">None stands here yet.</p>
      ) : (
        <MachineList rows={machines} showSite={false} />
      )}
      {machineCount > machines.length && (
        <p className="mt-2">
          <Link to={`/machines?site=${site.id}`}>Show all {machineCount}</Link>
        </p>
      )}
    </Section>
  );
}

export function SiteFacts({ site, today }: { site: Data["site"]; today: Data["today"] }) {
  const { latitude, longitude, waterHardness } = site;
  const text = (words: string) => words && <span className="whitespace-pre-line">{words}</span>;
  return (
    <FactList
      facts={[
        [
          "Access",
          hoursLines(site.accessHours).map((line) => (
            <span key={line} className="block">
              {line}
            </span>
          )),
        ],
        [
          "Its own day",
          <>
            <OnDay on={today} /> ({site.timeZone})
          </>,
        ],
        [
          "Water",
          waterHardness !== null && (
            <>
              <span className="figure">{waterHardness}</span> mg/L as CaCO₃, {hardnessClass(waterHardness)}
            </>
          ),
        ],
        ["Dust", site.dust !== "usual" && dustWords(site.dust)],
        [
          "Position",
          latitude !== null && longitude !== null && (
            <a className="figure" href={`geo:${latitude},${longitude}`}>
              {latitude}, {longitude}
            </a>
          ),
        ],
        ["Draining", text(site.drainRules)],
        ["Waste", text(site.wasteRules)],
        ["Notes", text(site.notes)],
      ]}
    />
  );
}

export function Contacts({ site }: { site: Data["site"] }) {
  if (site.contacts.length === 0) return null;
  return (
    <Section id="contacts" title="Contacts" panel>
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
    </Section>
  );
}

/** Days on which the site is closed, by hand and by holiday. */
export function ClosedDays({
  closures,
  holidays,
  actionData,
}: {
  closures: Data["closures"];
  holidays: Data["holidays"];
  actionData: Route.ComponentProps["actionData"];
}) {
  const say = useDayWords();
  return (
    <Section id="closed" title="Closed days" panel>
      {closures.length + holidays.length === 0 && (
        <p className="text-sm">None are known. Duties before standing idle come from them.</p>
      )}
      <ul className="text-sm">
        {closures.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center justify-between gap-x-2">
            <span>
              {one.fromOn === one.toOn ? say(one.fromOn) : `${say(one.fromOn)} to ${say(one.toOn)}`} {one.reason}
            </span>
            <Form method="post">
              <input type="hidden" name="intent" value="cancel-closure" />
              <input type="hidden" name="closure" value={one.id} />
              <button className="min-h-11 underline" aria-label={`Cancel the closure from ${say(one.fromOn)}`}>
                Cancel
              </button>
            </Form>
          </li>
        ))}
        {holidays.map((one) => (
          <li key={one.on} className="py-1">
            <OnDay on={one.on} /> {one.name}
          </li>
        ))}
      </ul>
      <ClosureForm answer={actionData} />
    </Section>
  );
}

function ClosureForm({ answer }: { answer: FormAnswer | undefined }) {
  const [form, fields] = useCheckedForm(closureSchema, answer, { form: "add-closure" });
  return (
    <Disclosure title="Add a closure" open={answer?.form === "add-closure"} className="mt-2">
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <TextField field={fields.fromOn} label="First closed day" type="date" />
        <TextField field={fields.toOn} label="Last closed day" type="date" />
        <TextField field={fields.reason} label="Why" />
        <SubmitButton>Add it</SubmitButton>
      </Form>
    </Disclosure>
  );
}

/** Access hours as understood; as they were typed where they are not. */
function hoursLines(text: string): string[] {
  try {
    return accessLines(text);
  } catch {
    return [text];
  }
}
