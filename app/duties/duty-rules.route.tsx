import { type FieldMetadata, getFormProps } from "@conform-to/react";
import { Form, Link, redirect, useNavigation } from "react-router";

import { changesOf } from "~/kit/server/audit.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { seenOf } from "~/kit/server/meanwhile.server";
import { served } from "~/kit/server/served.server";
import { triggerWords } from "~/procedures/trigger-words";
import { TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Seen } from "~/ui/seen";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/duty-rules.route";
import { changeDuty, DUTY_WORDS, dutyForEdit, tryDuty } from "./duties.server";
import { AboutDuty, ComesTo, MoreRules, RuleRows } from "./duty-rules-parts";
import { type DutyForm, dutySchema, type RuleForm } from "./duty-schema";
import { getMachineNames } from "./machine-names.server";
import { settingsOf, typedOf } from "./typed-duty";

export const meta: Route.MetaFunction = () => [{ title: "Rules of a duty – Humble Hound" }];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const found = await dutyForEdit(params.dutyId, new Date());
    return {
      ...found,
      seen: seenOf(found.settings, DUTY_WORDS),
      assessed: await tryDuty(params.dutyId, found.settings, new Date()),
      names: await getMachineNames(found.duty.machineId),
      changes: await changesOf("duty", [params.dutyId]),
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { dutyId } = args.params;
  return formAction(args, {
    try: form(dutySchema, async (value, _, now) => {
      const { settings } = await dutyForEdit(dutyId, now);
      return { result: await tryDuty(dutyId, settingsOf(value, settings), now) };
    }),
    save: form(dutySchema, async (value, who, now) => {
      const { settings } = await dutyForEdit(dutyId, now);
      const change = { settings: settingsOf(value, settings), reason: value.reason ?? "", seen: value.seen };
      await changeDuty(who, dutyId, change, now);
      return redirect(`/duties/${dutyId}`);
    }),
  });
}

export default function DutyRules({ loaderData, actionData }: Route.ComponentProps) {
  const { duty, settings, others, assessed, today, names, changes, seen } = loaderData;
  const busy = useNavigation().state !== "idle";
  const shown = actionData?.result ?? assessed;
  const [rulesForm, fields] = useCheckedForm(dutySchema, actionData, {
    form: actionData?.form ?? "save",
    defaultValue: typedOf(settings),
  });
  const rules = (fields.triggers as unknown as FieldMetadata<RuleForm[]>).getFieldList();
  const field = (name: keyof DutyForm): FieldMetadata<string> => fields[name] as unknown as FieldMetadata<string>;
  const { key: _, ...formProps } = { key: undefined, ...getFormProps(rulesForm) };
  return (
    <>
      <PageHead
        back={
          <>
            <Link to={`/machines/${duty.machineId}`}>{names.machineName}</Link> ·{" "}
            <Link to={`/duties/${duty.id}`}>{duty.title}</Link>
          </>
        }
        title="When this duty comes due"
      />
      <div className="grid gap-6 lg:grid-cols-[1fr_21rem]">
        <Form method="post" {...formProps} className="min-w-0 space-y-5">
          {rulesForm.errors && <Notice tone="problem">{rulesForm.errors.join(" ")}</Notice>}
          <Seen seen={seen} answer={actionData} form="save" />
          {settings.rules.given && (
            <Notice title="Tuned by what was found">
              Given was: {settings.rules.given.triggers.map(triggerWords).join("; or ")}. Intervals that are set here
              are the given ones from then on.
            </Notice>
          )}
          <RuleRows rules={rules} names={names} rulesForm={rulesForm} fields={fields} />

          <AboutDuty field={field} />

          <MoreRules rules={settings.rules} field={field} others={others} />

          <section className="panel p-4">
            <TextField field={field("reason")} label="Why is it changed?" hint="Kept with the old and the new rules." />
            <div className="flex flex-wrap gap-2">
              <button name="intent" value="save" className="btn btn-main" aria-disabled={busy}>
                Save the rules
              </button>
              <button name="intent" value="try" className="btn" aria-disabled={busy}>
                Try without saving
              </button>
            </div>
          </section>
        </Form>

        <ComesTo actionData={actionData} shown={shown} duty={duty} today={today} changes={changes} />
      </div>
    </>
  );
}
