import { Form, Link } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { Disclosure } from "~/ui/disclosure";
import { Section } from "~/ui/section";

/** What can be done with a day: proposed, planned, started, handed over, ended. */
export function DayTools(props: {
  status: "open" | "started" | "ended";
  today: boolean;
  there: boolean;
  /** On a phone its start or end is where the thumb is. */
  inBar: boolean;
  start: string;
  end: string;
  technicians: number;
  fixed: boolean;
  empty: boolean;
  colleagues: { id: string; name: string }[];
  addHref: string;
  icsHref: string;
  eveningHref: string;
  beforeHref: string;
  /** The day's last step, while it can be taken back. */
  last: { id: string; says: string } | null;
  answer: FormAnswer | undefined;
}) {
  const { status } = props;
  const [hours, emergency] = [answerTo(props.answer, "hours"), answerTo(props.answer, "emergency")];
  if (status === "ended")
    return (
      <Section id="do" title="This day has ended" panel className="space-y-3">
        <Link to={props.eveningHref} className="btn btn-main w-full">
          What became of it
        </Link>
        <TakeBack last={props.last} />
      </Section>
    );
  return (
    <>
      <Section id="do" title="The day" panel className="space-y-3">
        <div className={props.inBar ? "space-y-3 max-sm:hidden" : "space-y-3"}>
          {status === "open" && props.today && !props.empty && <Act intent="started" label="Start the day" main />}
          {status === "started" && !props.there && <Act intent="ended" label="End the day" />}
        </div>
        <TakeBack last={props.last} />
        <Act intent="propose" label="Propose a round" main={props.empty} />
        <Link to={props.addHref} className="btn w-full" preventScrollReset>
          Choose duties
        </Link>
        {!props.empty && (
          <Link to={props.beforeHref} className="btn w-full">
            Before we come
          </Link>
        )}
        {!props.empty && <Act intent="plan" label={status === "started" ? "Plan the rest again" : "Plan again"} />}
        {props.fixed && <Act intent="free-order" label="Let the best order be found" />}
        {!props.empty && status === "open" && <Act intent="clear" label="Start from an empty day" />}
        {!props.empty && (
          <p className="flex flex-wrap gap-x-4 text-sm">
            <a href={props.icsHref} className="inline-block min-h-11 py-2">
              Calendar file
            </a>
            <button type="button" className="min-h-11 underline" onClick={() => window.print()}>
              Print
            </button>
            {status === "started" && (
              <Link to={props.eveningHref} className="inline-block min-h-11 py-2">
                How it stands
              </Link>
            )}
          </p>
        )}
      </Section>

      <Section id="hours" title="Hours" panel>
        <Form method="post" className="grid grid-cols-3 gap-2">
          <Small name="start" label="From" defaultValue={props.start} error={hours.errors.start} />
          <Small name="end" label="Until" defaultValue={props.end} error={hours.errors.end} />
          <Small
            name="technicians"
            label="People"
            defaultValue={String(props.technicians)}
            inputMode="numeric"
            error={hours.errors.technicians}
          />
          <button className="btn col-span-3" name="intent" value="hours">
            Set the hours
          </button>
        </Form>
      </Section>

      <EmergencyCall emergency={emergency} />

      {!props.empty && props.colleagues.length > 0 && (
        <Disclosure title="Hand the rest over" look="strong" className="panel p-4">
          <Form method="post" className="mt-2 space-y-2">
            <label className="block text-sm font-semibold" htmlFor="to">
              To
            </label>
            <select id="to" name="to" className="field">
              {props.colleagues.map((person) => (
                <option key={person.id} value={person.id}>
                  {person.name}
                </option>
              ))}
            </select>
            <button className="btn w-full" name="intent" value="hand-over">
              Hand over
            </button>
          </Form>
        </Disclosure>
      )}
    </>
  );
}

function EmergencyCall({ emergency }: { emergency: ReturnType<typeof answerTo> }) {
  return (
    <Disclosure title="Emergency call" look="strong" open={emergency.refused} className="panel p-4">
      <Form method="post" className="mt-2 space-y-2">
        <Small
          name="tag"
          label="Machine tag"
          placeholder="HH-…"
          error={emergency.errors.tag}
          defaultValue={typed(emergency, "tag")}
        />
        <Small
          name="title"
          label="What is wrong"
          error={emergency.errors.title}
          defaultValue={typed(emergency, "title")}
        />
        <Small
          name="minutes"
          label="Minutes, about"
          defaultValue="30"
          inputMode="numeric"
          error={emergency.errors.minutes}
        />
        <button className="btn w-full" name="intent" value="emergency">
          Put it on the day
        </button>
      </Form>
    </Disclosure>
  );
}

/** A tap too early, or on the wrong site: it is taken back, and stays readable. */
function TakeBack({ last }: { last: { id: string; says: string } | null }) {
  if (!last) return null;
  return (
    <Form method="post">
      <input type="hidden" name="event" value={last.id} />
      <button className="btn w-full wrap-anywhere" name="intent" value="take-back">
        Take back: {last.says}
      </button>
    </Form>
  );
}

function Act({ intent, label, main = false }: { intent: string; label: string; main?: boolean }) {
  return (
    <Form method="post">
      <button className={`btn w-full ${main ? "btn-main" : ""}`} name="intent" value={intent}>
        {label}
      </button>
    </Form>
  );
}

function Small({
  name,
  label,
  error,
  ...input
}: { name: string; label: string; error: string[] | undefined } & React.InputHTMLAttributes<HTMLInputElement>) {
  const id = `day-${name}`;
  return (
    <div className="min-w-0">
      <label className="block text-sm font-semibold" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        name={name}
        className="field"
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-error` : undefined}
        {...input}
      />
      {error && (
        <p id={`${id}-error`} className="text-sm font-semibold">
          {error.join(" ")}
        </p>
      )}
    </div>
  );
}
