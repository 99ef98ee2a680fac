import { useState } from "react";
import { Form, Link, redirect } from "react-router";

import { form, formAction } from "~/kit/server/form-action.server";
import { preparePhoto } from "~/kit/server/photos.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { Disclosure } from "~/ui/disclosure";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { PhotoField } from "~/ui/photo-field";
import { ScanCode } from "~/ui/scan-code";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/machine-new.route";
import { FamilyPicker } from "./family-picker";
import { addingNames, addMachine, copyOf, nextTag } from "./new-machine.server";
import { beginningSchema, newMachineSchema, OTHER_FAMILY } from "./new-machine-schemas";
import { SiteField } from "./site-field";
import { tagOfCode } from "./tag-of-code";

export const meta: Route.MetaFunction = () => [{ title: "Add a machine – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { tag = "", site = "", like = null } = readQuery(request, beginningSchema);
    const [names, next, copied] = await Promise.all([addingNames(), nextTag(), like === null ? null : copyOf(like)]);
    return { names, next, tag, like, copied, site: copied?.site ?? site };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    machine: form(newMachineSchema, async ({ photo, like, ...rest }, who, now) => {
      const prepared = photo ? await preparePhoto(new Uint8Array(await photo.arrayBuffer()), now) : null;
      const id = await addMachine(who, { ...rest, photo: prepared, like: like ?? null }, now);
      return redirect(`/machines/${id}/first-duties`);
    }),
  });
}

export default function MachineNew({ loaderData, actionData }: Route.ComponentProps) {
  const { names, next, tag, like, copied, site } = loaderData;
  const lead = useIsLead();
  const [form, fields] = useCheckedForm(newMachineSchema, actionData, {
    form: "machine",
    id: "new-machine",
    defaultValue: { ...copied, options: [], meters: [], site, tag },
  });
  const [family, setFamily] = useState(fields.family.initialValue ?? copied?.family ?? "");
  const [code, setCode] = useState<string | null>(null);
  return (
    <div className="mx-auto max-w-3xl">
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link>
          </>
        }
        title={copied === null ? "Add a machine" : `Add one like ${copied.name}`}
        subtitle={lead ? undefined : "You can work on it at once. A lead looks over what you have added."}
      />
      {tag !== "" && (
        <Notice>No machine in the register has the tag {tag}. Add it here, or find it by its name.</Notice>
      )}
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
        {like !== null && <input type="hidden" name="like" value={like} />}
        <SiteField field={fields.site} sites={names.sites} />
        <p className="-mt-2 mb-4 text-sm">
          <Link to={`/sites/new${tag === "" ? "" : `?${new URLSearchParams({ tag })}`}`}>The site is not here yet</Link>
        </p>
        <FamilyPicker families={names.families} chosen={family} onChoose={setFamily} errors={fields.family.errors} />
        {family === OTHER_FAMILY && (
          <>
            <TextField field={fields.otherFamily} label="What kind of machine" hint="Such as coffee grinder." />
            <label className="mb-1 flex min-h-11 items-center gap-2">
              <input type="checkbox" name="familyIsNew" className="size-5 accent-(--fill)" /> It is a new family:
              nothing is owed on it until there are procedures
            </label>
            <p role={fields.familyIsNew.errors ? "alert" : undefined} className="mb-2 font-semibold">
              {fields.familyIsNew.errors && `! ${fields.familyIsNew.errors.join(" ")}`}
            </p>
          </>
        )}
        <TextField
          key={code}
          field={fields.tag}
          label="Tag"
          hint={`The sign on the machine that people scan. The next one of yours is ${next}.`}
          autoComplete="off"
          {...(code === null ? {} : { defaultValue: code })}
        />
        <div className="-mt-2 mb-4 flex flex-wrap gap-2">
          <ScanCode label="Scan the tag" onCode={(read) => setCode(tagOfCode(read))} />
          <button type="button" className="btn" onClick={() => setCode(next)}>
            Take {next}
          </button>
        </div>
        <TextField
          field={fields.name}
          label="Name"
          hint="What people there call it, such as Ice maker, fish kitchen."
        />
        <TextField field={fields.serial} label="Serial number" autoComplete="off" />
        <MoreNow names={names} family={family} fields={fields} options={copied?.options ?? []} open={copied !== null} />
        <div className="mt-4">
          <SubmitButton>Add the machine</SubmitButton>
        </div>
      </Form>
    </div>
  );
}

type Fields = ReturnType<typeof useCheckedForm<typeof newMachineSchema>>[1];

/** What can be filled in later as well. */
function MoreNow({
  names,
  family,
  fields,
  options,
  open,
}: {
  names: Route.ComponentProps["loaderData"]["names"];
  family: string;
  fields: Fields;
  options: readonly string[];
  open: boolean;
}) {
  const meters = names.meters[family] ?? [];
  const fitted = names.options[family] ?? [];
  const readings = fields.meters.getFieldList();
  const faulty =
    [fields.area, fields.maker, fields.model].some((field) => field.errors) ||
    readings.some((one) => Object.keys(one.allErrors).length > 0);
  return (
    <Disclosure title="Meters, maker, picture: now or later" open={open || faulty}>
      {meters.length > 0 && (
        <fieldset className="mb-2">
          <legend className="mb-1 font-semibold">What its meters show</legend>
          <p className="mb-2 text-sm text-ink-soft">A machine that was used before starts from here. Empty: later.</p>
          <div className="grid gap-x-4 sm:grid-cols-2">
            {meters.map((meter, i) => {
              const row = readings[i]?.getFieldset();
              return (
                <div key={meter.id}>
                  <input type="hidden" name={`meters[${i}].meter`} value={meter.id} />
                  <label htmlFor={`meter-${i}`} className="mb-1 block">
                    {meter.name}, {meter.unit}
                  </label>
                  <input
                    id={`meter-${i}`}
                    name={`meters[${i}].value`}
                    defaultValue={row?.value.initialValue}
                    inputMode="decimal"
                    className="field figure"
                    aria-invalid={row?.value.errors ? true : undefined}
                    aria-describedby={`meter-${i}-error`}
                  />
                  <p
                    id={`meter-${i}-error`}
                    role={row?.value.errors ? "alert" : undefined}
                    className="min-h-6 text-sm font-semibold"
                  >
                    {row?.value.errors && `! ${row.value.errors.join(" ")}`}
                  </p>
                </div>
              );
            })}
          </div>
        </fieldset>
      )}
      {fitted.length > 0 && (
        <fieldset className="mb-4">
          <legend className="mb-1 font-semibold">What is fitted</legend>
          {fitted.map((option) => (
            <label key={option.id} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                name="options"
                value={option.id}
                defaultChecked={options.includes(option.id)}
                className="size-5 accent-(--fill)"
              />
              {option.name}
            </label>
          ))}
        </fieldset>
      )}
      <div className="grid gap-x-4 sm:grid-cols-3">
        <TextField field={fields.area} label="Area" />
        <TextField field={fields.maker} label="Maker" />
        <TextField field={fields.model} label="Model" />
      </div>
      <PhotoField name="photo" label="Picture of the plate" />
    </Disclosure>
  );
}
