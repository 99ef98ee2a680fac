import { type FieldMetadata, getFormProps } from "@conform-to/react";
import { Form, Link, redirect, useNavigation } from "react-router";

import { changesOf } from "~/kit/server/audit.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { seenOf } from "~/kit/server/meanwhile.server";
import { served } from "~/kit/server/served.server";
import { TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Seen } from "~/ui/seen";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/duty-rules.route";
import { changeDuty, DUTY_WORDS, dutyForEdit, type DutySettings, tryDuty } from "./duties.server";
import { AboutDuty, ComesTo, MoreRules, RuleRows } from "./duty-rules-parts";
import { type DutyForm, dutySchema, leadOf, rowOf, type RuleForm, triggerOf } from "./duty-schema";
import { getMachineNames } from "./machine-names.server";

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

function settingsOf(form: DutyForm, old: DutySettings): DutySettings {
  const notice = leadOf(form.noticeDays, form.noticePercent);
  const warning = leadOf(form.warningDays, form.warningPercent);
  return {
    title: form.title,
    who: form.who,
    authorisation: form.authorisation ?? null,
    minutes: form.minutes,
    startOn: form.startOn,
    hardStop: form.hardStop,
    active: form.active,
    rules: {
      triggers: form.triggers.map(triggerOf),
      ...(notice ? { notice } : {}),
      ...(warning ? { warning } : {}),
      ...(form.factor && form.factor !== 1 ? { intervalFactor: form.factor } : {}),
      ...(form.covers.length > 0 ? { covers: form.covers } : {}),
      ...(form.idleDays ? { idleDays: form.idleDays } : {}),
      ...(form.emitsEvent
        ? { emits: [{ event: form.emitsEvent, on: form.emitsOn }, ...(old.rules.emits ?? []).slice(1)] }
        : {}),
      ...(form.readyBy ? { readyBy: form.readyBy } : {}),
      ...(form.notUsedHours || form.notUsedBefore
        ? {
            notUntil: {
              ...(form.notUsedHours ? { hours: form.notUsedHours } : {}),
              ...(form.notUsedBefore ? { done: form.notUsedBefore } : {}),
            },
          }
        : {}),
    },
  };
}

/** What is in force, as the form has it. */
function typedOf(settings: DutySettings) {
  const { notice, warning, intervalFactor, covers, idleDays, emits, readyBy, notUntil, triggers } = settings.rules;
  return {
    title: settings.title,
    who: settings.who,
    authorisation: settings.authorisation ?? "",
    minutes: settings.minutes,
    startOn: settings.startOn,
    hardStop: settings.hardStop,
    active: settings.active,
    triggers: triggers.map(rowOf),
    factor: intervalFactor ?? "",
    noticeDays: notice?.days ?? "",
    noticePercent: notice?.fraction === undefined ? "" : Math.round(notice.fraction * 100),
    warningDays: warning?.days ?? "",
    warningPercent: warning?.fraction === undefined ? "" : Math.round(warning.fraction * 100),
    idleDays: idleDays ?? "",
    covers: covers ?? [],
    emitsEvent: emits?.[0]?.event ?? "",
    emitsOn: emits?.[0]?.on ?? "same-day",
    readyBy: readyBy ?? "",
    notUsedHours: notUntil?.hours ?? "",
    notUsedBefore: notUntil?.done ?? "",
    reason: "",
  };
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
