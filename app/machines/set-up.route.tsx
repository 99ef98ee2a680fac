import { Form, Link, redirect } from "react-router";

import { addDuty, proposedDuties } from "~/duties/duties.server";
import { OWN_DUTY } from "~/duties/general-procedures";
import { getMachineNames } from "~/duties/machine-names.server";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { linkSchema } from "~/kit/forms/link-schema";
import { changesOf } from "~/kit/server/audit.server";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { listLinks, makeLink, revokeOwnLink } from "~/kit/server/links.server";
import { seenOf } from "~/kit/server/meanwhile.server";
import { preparePhoto } from "~/kit/server/photos.server";
import { served } from "~/kit/server/served.server";
import { Day } from "~/ui/day";
import { AreaField, SelectField, SubmitButton, TextField } from "~/ui/form";
import { MadeLinks, NewLink } from "~/ui/made-links";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { PhotoField } from "~/ui/photo-field";
import { Section } from "~/ui/section";
import { Seen } from "~/ui/seen";
import { titleOf } from "~/ui/title-of";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/set-up.route";
import { moveSchema } from "./adding/new-machine-schemas";
import { SiteField } from "./adding/site-field";
import { siteMeant, siteTexts } from "./adding/site-meant.server";
import { addDutySchema, addMeterSchema, machineSchema, parseDocuments } from "./machine-schemas";
import { changeMachine, changeMachines, getMachine, MACHINE_WORDS } from "./machines.server";
import { addMeter } from "./meters.server";
import { operatorQr } from "./tags.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Set up ${data.machine.name}`, "Set up a machine") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const { machine } = await getMachine(params.machineId);
    const { meters } = await getMachineNames(params.machineId);
    return {
      machine,
      seen: seenOf(machine, MACHINE_WORDS),
      meters,
      proposed: await proposedDuties(params.machineId),
      links: await listLinks(["operator"], params.machineId),
      changes: await changesOf("machine", [params.machineId], 20),
      ownDuty: OWN_DUTY,
      sites: await siteTexts(),
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { machineId } = args.params;
  const setUp = `/machines/${machineId}/set-up`;
  return formAction(args, {
    machine: form(machineSchema, async ({ seen, options, documents, photo, ...rest }, who, now) => {
      const prepared = photo ? await preparePhoto(new Uint8Array(await photo.arrayBuffer()), now) : null;
      const settings = {
        ...rest,
        options: options.split(/\s+/).filter(Boolean),
        documents: parseDocuments(documents),
      };
      await changeMachine(who, machineId, { settings, photo: prepared, seen }, now);
      return redirect(`/machines/${machineId}`);
    }),
    duty: form(addDutySchema, async ({ procedureId, title }, who, now) => {
      const dutyId = await addDuty(who, machineId, { procedureId, title: title ?? null }, now);
      return redirect(`/duties/${dutyId}/rules`);
    }),
    meter: form(addMeterSchema, async ({ gatewayRef, ...meter }, who, now) => {
      await addMeter(who, machineId, { ...meter, gatewayRef: gatewayRef ?? null }, now);
      return redirect(setUp);
    }),
    move: form(moveSchema, async ({ site, area }, who, now) => {
      const { id } = await siteMeant(site);
      await changeMachines(who, [machineId], { siteId: id, area, addOption: null, dropOption: null }, now);
      return redirect(`/machines/${machineId}`);
    }),
    link: form(NOTHING, async (_, who, now) => {
      const { origin } = new URL(args.request.url);
      const made = `${origin}/o/${await makeLink(who, "operator", machineId, now)}`;
      return { result: { made, qr: await operatorQr(made) } };
    }),
    revoke: form(linkSchema, async ({ link }, who, now) => {
      await revokeOwnLink(who, "operator", machineId, link, now);
      return redirect(setUp);
    }),
  });
}

export default function MachineSetUp({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, links, changes } = loaderData;
  const made = actionData?.result ?? null;
  return (
    <>
      <PageHead
        back={
          <>
            <Link to={`/machines/${machine.id}`}>{machine.name}</Link>
          </>
        }
        title="Set up the machine"
      />
      <div className="grid gap-6 lg:grid-cols-2">
        <FactsForm machine={machine} seen={loaderData.seen} answer={actionData} />
        <div className="min-w-0 space-y-6">
          <DutyForm loaderData={loaderData} answer={actionData} />
          <Section id="operator" title="The operator's page" panel>
            <p className="text-sm">
              A link without sign-in to tick the operator's duties and report problems. It shows nothing else.
            </p>
            {made && (
              <NewLink
                title="Copy or print it now: it is shown once."
                label="Address of the operator's page"
                value={made.made}
              >
                {made.qr && (
                  <img
                    src={made.qr}
                    alt="QR code of the operator's page"
                    width={180}
                    height={180}
                    className="mt-2 bg-white"
                  />
                )}
              </NewLink>
            )}
            <MadeLinks links={links} what="link" />
            <Form method="post">
              <button name="intent" value="link" className="btn btn-main mt-2">
                Make a link
              </button>
            </Form>
          </Section>
          <MeterSetUp meters={loaderData.meters} answer={actionData} />
          <MoveForm area={machine.area} sites={loaderData.sites} answer={actionData} />
          <p>
            <Link to={`/machines/${machine.id}/take-out`} className="btn">
              Take it out for good
            </Link>
          </p>
          {changes.length > 0 && (
            <Section id="changes" title="Changed before" panel>
              <ul className="text-sm">
                {changes.map((change, i) => (
                  <li key={i}>
                    <Day at={change.at} /> {change.by}: {change.action}
                  </li>
                ))}
              </ul>
            </Section>
          )}
        </div>
      </div>
    </>
  );
}

function FactsForm({
  machine,
  seen,
  answer,
}: {
  machine: Route.ComponentProps["loaderData"]["machine"];
  seen: string;
  answer: FormAnswer | undefined;
}) {
  const [form, fields] = useCheckedForm(machineSchema, answer, {
    form: "machine",
    id: "facts-form",
    defaultValue: {
      ...machine,
      options: machine.options.join(" "),
      documents: machine.documents.map((one) => `${one.title} ${one.href}`).join("\n"),
    },
  });
  return (
    <Form
      method="post"
      encType="multipart/form-data"
      id={form.id}
      onSubmit={form.onSubmit}
      noValidate={form.noValidate}
      className="panel p-4"
    >
      {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
      <input type="hidden" name="intent" value="machine" />
      <Seen seen={seen} answer={answer} form="machine" />
      <TextField field={fields.name} label="Name" />
      <TextField field={fields.area} label="Area" />
      <TextField
        field={fields.position}
        label="Where it stands"
        hint="Such as: behind the counter, left of the door."
      />
      <div className="grid gap-x-4 sm:grid-cols-2">
        <TextField
          field={fields.freeHours}
          label="Free for work"
          hint="Such as 05:30-08:00, 15:00-18:00. Empty: whenever the site lets people in."
        />
        <TextField field={fields.readyBy} label="Ready by" hint="Such as 10:45, a quarter of an hour before serving." />
      </div>
      <div className="grid gap-x-4 sm:grid-cols-3">
        <TextField field={fields.maker} label="Maker" />
        <TextField field={fields.model} label="Model" />
        <TextField field={fields.serial} label="Serial" />
      </div>
      <TextField field={fields.options} label="Fitted options" hint="Short names with spaces between." />
      <AreaField field={fields.documents} label="Documents" hint="One a line: title, then its http or https address." />
      <AreaField field={fields.notes} label="Notes" />
      <PhotoField name="photo" label="Picture" />
      <SubmitButton>Save the machine</SubmitButton>
    </Form>
  );
}

function DutyForm({
  loaderData,
  answer,
}: {
  loaderData: Route.ComponentProps["loaderData"];
  answer: FormAnswer | undefined;
}) {
  const { proposed, ownDuty } = loaderData;
  const [form, fields] = useCheckedForm(addDutySchema, answer, { form: "duty", id: "duty-form" });
  return (
    <Section id="add-duty" title="Add a duty" panel>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="duty" />
        <SelectField
          field={fields.procedureId}
          label="Which"
          options={[
            ...proposed.map((one) => [one.id, one.title] as const),
            [ownDuty, "One of this machine's own"] as const,
          ]}
        />
        <TextField field={fields.title} label="Title" hint="Empty: as in the procedure. Its rules come next." />
        <SubmitButton>Add it</SubmitButton>
      </Form>
    </Section>
  );
}

/** To another site for good: what it owes goes with it, its records stay of where they were made. */
function MoveForm({ area, sites, answer }: { area: string; sites: readonly string[]; answer: FormAnswer | undefined }) {
  const [form, fields] = useCheckedForm(moveSchema, answer, {
    form: "move",
    id: "move-form",
    defaultValue: { area },
  });
  return (
    <Section id="move" title="Move it to another site" panel>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="move" />
        <div className="grid gap-x-4 sm:grid-cols-2">
          <SiteField field={fields.site} sites={sites} />
          <TextField field={fields.area} label="Area" />
        </div>
        <SubmitButton>Move it</SubmitButton>
      </Form>
    </Section>
  );
}

function MeterSetUp({
  meters,
  answer,
}: {
  meters: Route.ComponentProps["loaderData"]["meters"];
  answer: FormAnswer | undefined;
}) {
  const [form, fields] = useCheckedForm(addMeterSchema, answer, { form: "meter", id: "meter-set-up" });
  return (
    <Section id="add-meter" title="Add a meter" panel>
      {meters.length > 0 && (
        <p className="mb-2 text-sm">
          It has: {meters.map((meter) => `${meter.name} (${meter.id})`).join(", ")}. The same short name again changes
          one.
        </p>
      )}
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="meter" />
        <div className="grid gap-x-4 sm:grid-cols-2">
          <TextField field={fields.meter} label="Short name" />
          <TextField field={fields.name} label="Name" />
          <TextField field={fields.unit} label="Unit" />
          <TextField field={fields.basis} label="Counts" hint="Power-on, running, cutting, spindle …" />
        </div>
        <TextField
          field={fields.gatewayRef}
          label="Name at the gateway"
          hint="If its readings come from there. Empty: by hand."
        />
        <SubmitButton>Save the meter</SubmitButton>
      </Form>
    </Section>
  );
}
