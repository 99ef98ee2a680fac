import type { FieldMetadata } from "@conform-to/react";
import { inWords } from "@core";

import { Day, OnDay, useSaidDays } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { SelectField, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";
import type { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/duty-rules.route";
import { changeWords } from "./change-words";
import type { DutyForm, dutySchema, RuleForm } from "./duty-schema";
import { LeadMark, leadWords } from "./lead-mark";

type Data = Route.ComponentProps["loaderData"];
type DutyRulesForm = ReturnType<typeof useCheckedForm<typeof dutySchema>>;
type FieldOf = (name: keyof DutyForm) => FieldMetadata<string>;

/** The triggers, of which the earliest counts. */
export function RuleRows({
  rules,
  names,
  rulesForm,
  fields,
}: {
  rules: FieldMetadata<RuleForm>[];
  names: Data["names"];
  rulesForm: DutyRulesForm[0];
  fields: DutyRulesForm[1];
}) {
  return (
    <Section id="rules" title="Rules: the earliest counts" className="space-y-3">
      {rules.map((rule, i) => (
        <RuleRow
          key={rule.key}
          rule={rule}
          index={i}
          meters={names.meters}
          readings={names.readings}
          events={names.events}
        >
          {rules.length > 1 && (
            <button
              {...rulesForm.remove.getButtonProps({ name: fields.triggers.name, index: i })}
              className="min-h-11 text-sm underline"
            >
              Remove rule {i + 1}
            </button>
          )}
        </RuleRow>
      ))}
      {fields.triggers.errors && <Notice tone="problem">{fields.triggers.errors.join(" ")}</Notice>}
      <button
        {...rulesForm.insert.getButtonProps({
          name: fields.triggers.name,
          defaultValue: { kind: "calendar", every: "1", unit: "month", calendarBasis: "completion" },
        })}
        className="btn"
      >
        Add a rule
      </button>
    </Section>
  );
}

/** What the duty is and who does it. */
export function AboutDuty({ field }: { field: FieldOf }) {
  return (
    <Section id="duty" title="The duty" panel>
      <TextField field={field("title")} label="Title" />
      <div className="grid gap-x-4 sm:grid-cols-2">
        <SelectField
          field={field("who")}
          label="Who does it"
          options={[
            ["operator", "The operator"],
            ["technician", "A technician"],
            ["licensed", "Licensed or authorised persons only"],
          ]}
        />
        <TextField
          field={field("authorisation")}
          label="Authorisation needed"
          hint="Such as licensed-refrigeration. Empty: none."
        />
        <TextField field={field("minutes")} label="Minutes, waits included" inputMode="numeric" />
        <TextField
          field={field("startOn")}
          label="Counts from"
          type="date"
          hint="Until it was done the first time, and for fixed dates."
        />
      </div>
      <Check field={field("hardStop")} label="Hard stop: the machine may not be used once it is missed" />
      <Check field={field("active")} label="In force on this machine" />
    </Section>
  );
}

/** Alerts, water, use afterwards, what it contains and sets off. */
export function MoreRules({
  rules,
  field,
  others,
}: {
  rules: Data["settings"]["rules"];
  field: FieldOf;
  others: Data["others"];
}) {
  const { notice, warning, intervalFactor, tuning, covers, idleDays, emits, readyBy, notUntil } = rules;
  return (
    <Disclosure
      title="Alerts, water, use afterwards, what it contains and sets off"
      look="head"
      open={Boolean(
        notice ?? warning ?? intervalFactor ?? tuning ?? covers ?? idleDays ?? emits ?? readyBy ?? notUntil,
      )}
      className="panel p-4"
    >
      <div className="grid gap-x-4 sm:grid-cols-2">
        <TextField
          field={field("noticeDays")}
          label="Notice, days before"
          inputMode="numeric"
          hint="Empty: 7 days or 25 %, the later."
        />
        <TextField field={field("noticePercent")} label="Notice, percent of the interval" inputMode="decimal" />
        <TextField
          field={field("warningDays")}
          label="Warning, days before"
          inputMode="numeric"
          hint="Empty: 2 days or 10 %, the later."
        />
        <TextField field={field("warningPercent")} label="Warning, percent of the interval" inputMode="decimal" />
        <TextField
          field={field("factor")}
          label="Interval factor"
          inputMode="decimal"
          hint="0.5 is twice as often, for example where water is hard."
        />
        <TextField
          field={field("tuneLeast")}
          label="Findings may shorten it to, times"
          inputMode="decimal"
          hint="Of the given interval. Empty: 0.5. Both 1: never tuned."
        />
        <TextField
          field={field("tuneMost")}
          label="Findings may stretch it to, times"
          inputMode="decimal"
          hint="Empty: 2. Never longer than given with a hard stop, or for licensed or authorised persons only."
        />
        <TextField
          field={field("idleDays")}
          label="Idle means closed for, days"
          inputMode="numeric"
          hint="For the occurrence idle-ahead. Empty: 2."
        />
        <TextField
          field={field("emitsEvent")}
          label="When done, sets off the occurrence"
          hint="For a second half, or what follows a replacement."
        />
        <SelectField
          field={field("emitsOn")}
          label="… dated to"
          options={[
            ["same-day", "the same day"],
            ["next-open-day", "the site's next open day"],
          ]}
        />
        <TextField field={field("readyBy")} label="Ready by" hint="Such as 10:45: days are planned to end before it." />
        <TextField
          field={field("notUsedHours")}
          label="Not used afterwards, hours"
          inputMode="decimal"
          hint="While parts dry, for example."
        />
        {(others.length > 0 || notUntil?.done) && (
          <SelectField
            field={field("notUsedBefore")}
            label="Not used before this was done"
            options={[
              ["", "nothing more"],
              ...others.map((other) => [other.key, other.title] as const),
              // What a machine does not have as a duty stays as it is.
              ...(notUntil?.done && others.every((other) => other.key !== notUntil.done)
                ? [[notUntil.done, inWords(notUntil.done)] as const]
                : []),
            ]}
          />
        )}
      </div>
      {others.length > 0 && (
        <fieldset className="mt-2">
          <legend className="font-semibold">Counts for these duties too</legend>
          {others.map((other) => (
            <label key={other.key} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                name="covers"
                value={other.key}
                defaultChecked={covers?.includes(other.key)}
                className="size-5"
              />
              {other.title}
            </label>
          ))}
        </fieldset>
      )}
    </Disclosure>
  );
}

/** What the rules come to, worked out while they are typed, and how they were before. */
export function ComesTo({
  actionData,
  shown,
  duty,
  today,
  changes,
}: {
  actionData: Route.ComponentProps["actionData"];
  shown: Data["assessed"];
  duty: Data["duty"];
  today: Data["today"];
  changes: Data["changes"];
}) {
  const said = useSaidDays();
  return (
    <aside className="min-w-0 space-y-5">
      <section className="panel p-4 lg:sticky lg:top-16" aria-labelledby="comes-to" aria-live="polite">
        <h2 id="comes-to" className="mb-2 text-lg">
          {actionData?.result ? "It would come to" : "It comes to"}
        </h2>
        <div className="flex items-center gap-3">
          <LeadMark state={shown.state} anchorOn={duty.anchorOn} dueOn={shown.dueOn} today={today} />
          <p>
            <span className="figure font-semibold">
              {shown.dueOn === null ? "no day yet" : <OnDay on={shown.dueOn} />}
            </span>
            <br />
            {leadWords(shown.state, shown.dueOn, today)}
          </p>
        </div>
        <ul className="mt-3 list-disc space-y-1 pl-5 text-sm text-ink-soft">
          {shown.because.map((sentence) => (
            <li key={sentence} className="wrap-anywhere">
              {said(sentence)}
            </li>
          ))}
        </ul>
      </section>
      {changes.length > 0 && (
        <Section id="changes" title="Changed before" panel>
          <ul className="space-y-2 text-sm">
            {changes.map((change, i) => (
              <li key={i}>
                <Day at={change.at} /> {change.by}: {changeWords(change)}
              </li>
            ))}
          </ul>
        </Section>
      )}
    </aside>
  );
}

function Check({ field, label }: { field: FieldMetadata<string>; label: string }) {
  return (
    <label className="flex min-h-11 items-center gap-2">
      <input
        type="checkbox"
        name={field.name}
        defaultChecked={field.initialValue === "on" || field.initialValue === ("true" as string)}
        className="size-5"
      />
      {label}
    </label>
  );
}

function RuleRow({
  rule,
  index,
  meters,
  readings,
  events,
  children,
}: {
  rule: FieldMetadata<RuleForm>;
  index: number;
  meters: readonly { id: string; name: string; unit: string }[];
  readings: readonly string[];
  events: readonly string[];
  children: React.ReactNode;
}) {
  const fields = rule.getFieldset();
  const field = (name: keyof RuleForm): FieldMetadata<string> => fields[name];
  const kind = field("kind").value ?? "calendar";
  return (
    <fieldset className="panel p-4">
      <legend className="sr-only">Rule {index + 1}</legend>
      <div className="grid gap-x-4 sm:grid-cols-3">
        <SelectField
          field={field("kind")}
          label={`Rule ${index + 1}`}
          options={[
            ["calendar", "By the calendar"],
            ["meter", "By a meter"],
            ["event", "When something happens"],
            ["condition", "When a reading is out"],
          ]}
        />
        {kind === "calendar" && (
          <>
            <TextField field={field("every")} label="Every" inputMode="numeric" />
            <SelectField field={field("unit")} label="Unit" options={UNITS} />
            <SelectField field={field("calendarBasis")} label="Counted from" options={BASES} />
            <SelectField field={field("weekday")} label="Moved to" options={WEEKDAYS} hint="With weeks only." />
            <TextField field={field("firstEvery")} label="First interval" inputMode="numeric" hint="If it differs." />
            <SelectField field={field("firstUnit")} label="Its unit" options={[NONE, ...UNITS]} />
          </>
        )}
        {kind === "meter" && (
          <>
            <SelectField
              field={field("meter")}
              label="Meter"
              options={meters.map((meter) => [meter.id, `${meter.name} (${meter.unit})`] as const)}
            />
            <TextField field={field("use")} label="Every" inputMode="decimal" />
            <SelectField
              field={field("meterBasis")}
              label="Counted from"
              options={[
                ["completion", "the last completion"],
                ["grid", "fixed points"],
              ]}
            />
            <TextField field={field("firstUse")} label="First" inputMode="decimal" hint="If it differs." />
          </>
        )}
        {kind === "event" && (
          <TextField
            field={field("event")}
            label="Event"
            hint={events.length > 0 ? `Known here: ${events.join(", ")}` : "Such as ribbon-replaced."}
          />
        )}
        {kind === "condition" && (
          <>
            <TextField
              field={field("reading")}
              label="Reading"
              hint={readings.length > 0 ? `Known here: ${readings.join(", ")}` : "Such as bristle-length."}
            />
            <TextField field={field("above")} label="Above" inputMode="decimal" />
            <TextField field={field("below")} label="Below" inputMode="decimal" />
          </>
        )}
      </div>
      {children}
    </fieldset>
  );
}
const UNITS = [
  ["day", "days"],
  ["week", "weeks"],
  ["month", "months"],
  ["year", "years"],
] as const;

export const NONE = ["", "–"] as const;
const WEEKDAYS = [
  NONE,
  ["1", "Monday"],
  ["2", "Tuesday"],
  ["3", "Wednesday"],
  ["4", "Thursday"],
  ["5", "Friday"],
  ["6", "Saturday"],
  ["7", "Sunday"],
] as const;
const BASES = [
  ["completion", "the last completion"],
  ["grid", "fixed dates"],
] as const;
