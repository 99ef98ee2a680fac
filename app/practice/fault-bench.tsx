import { UNKNOWN_CAUSE } from "@core";
import { clsx } from "clsx";
import { Form, useNavigation } from "react-router";

import { inHours } from "~/kit/days/day-time";
import { bothDegrees } from "~/sheet/steps/gate-ticks";
import { Section } from "~/ui/section";

import type { FaultView, StateView } from "./fault-view";
import { Happened } from "./happened";

/** The practice machine: what it is in, what can be looked at, what can be done, and what happened so far. */
export function FaultBench({ fault, seen }: { fault: FaultView; seen: number }) {
  return (
    <div className="grid gap-x-8 gap-y-6 pb-24 lg:grid-cols-[1fr_20rem] lg:pb-0">
      <div className="min-w-0 space-y-6">
        <Section id="states" title="What it is in">
          <ul className="panel divide-y divide-line">
            {fault.states.map((state) => (
              <StateRow key={state.id} state={state} seen={seen} />
            ))}
          </ul>
        </Section>
        <Section id="checks" title="Look at">
          <ul className="grid gap-2 sm:grid-cols-2">
            {fault.checks.map((check) => (
              <li key={check.id}>
                <Act
                  act="check"
                  what={check.id}
                  seen={seen}
                  className="btn btn-big h-full w-full justify-start text-left"
                >
                  <span className="min-w-0 wrap-anywhere">
                    {check.title} <span className="font-normal whitespace-nowrap">{inHours(check.minutes)}</span>
                    <span className="block text-sm font-normal">{check.how}</span>
                    {check.showed.map((text, i) => (
                      <span key={i} className="mt-1 block border-l-4 border-tan-fill pl-2 text-sm">
                        {text}
                      </span>
                    ))}
                  </span>
                </Act>
              </li>
            ))}
          </ul>
        </Section>
        <Section id="cause" title="It is">
          <ItIs fault={fault} seen={seen} />
        </Section>
        <Section id="rest" title="What belongs to it">
          <div className="flex flex-wrap gap-2">
            <Act act="prove" seen={seen}>
              Prove that it is gone
            </Act>
            <Act act="tell" seen={seen}>
              Tell the operator
            </Act>
            {!fault.isStopped && (
              <Act act="stop" seen={seen}>
                Take it out of service
              </Act>
            )}
            <Act act="interim" seen={seen}>
              Say what holds for now
            </Act>
          </div>
          <div className="mt-4 flex flex-wrap gap-2">
            <Act act="wait" minutes={5} seen={seen}>
              Let 5 minutes pass
            </Act>
            <Act act="wait" minutes={30} seen={seen}>
              Let 30 minutes pass
            </Act>
            <Act act="done" seen={seen} className="btn btn-main btn-big">
              Leave the machine
            </Act>
          </div>
        </Section>
      </div>
      <aside
        aria-label="So far"
        className="order-first min-w-0 lg:sticky lg:top-18 lg:order-none lg:max-h-[calc(100dvh-5rem)] lg:self-start lg:overflow-y-auto"
      >
        <Head fault={fault} />
        <div className="hidden lg:block">
          <Happened lines={fault.lines} />
        </div>
        <Latest lines={fault.lines} />
      </aside>
    </div>
  );
}

function Head({ fault: { minutes, surfaceC, states, options } }: { fault: FaultView }) {
  const inside = states.filter((one) => one.isIn).map((one) => one.name);
  return (
    <div className="panel mb-3 p-4">
      <p className="text-lg">
        <strong className="figure">{inHours(minutes)}</strong> of the machine&apos;s time
      </p>
      <p>
        To the touch: <span className="figure">{bothDegrees(surfaceC)}</span>
      </p>
      {options.length > 0 && <p>Fitted: {options.join(", ")}</p>}
      <p>{inside.length === 0 ? "As you found it: in use a moment ago" : inside.join(", ")}</p>
    </div>
  );
}

/** What was just seen: told aloud, and on a phone always in sight; the rest is in the list of a wide screen. */
function Latest({ lines }: { lines: FaultView["lines"] }) {
  const last = lines[lines.length - 1];
  const says = last ? `${last.kind === "unsafe" ? "! Unsafe: " : ""}${last.text}` : "Nothing done yet.";
  return (
    <>
      <p role="status" className="sr-only">
        {says}
      </p>
      {last && (
        <p
          aria-hidden
          className={clsx(
            "no-print fixed inset-x-0 bottom-[calc(3rem+env(safe-area-inset-bottom))] z-20 border-t-2 border-ink bg-ground px-4 py-2 wrap-anywhere sm:bottom-0 lg:hidden",
            last.kind === "unsafe" && "font-semibold",
          )}
        >
          <span className="figure">{inHours(last.minute)}</span> {says}
        </p>
      )}
    </>
  );
}

function StateRow({ state, seen }: { state: StateView; seen: number }) {
  const { id, name, isIn, into, outOf, cautions, wait } = state;
  return (
    <li className="flex flex-wrap items-start justify-between gap-3 p-3">
      <div className="min-w-0 flex-1 basis-56">
        <p className="font-semibold">
          {isIn && <span aria-hidden>● </span>}
          {name}
          {isIn && <span className="font-normal"> · now</span>}
        </p>
        <p className="text-sm text-ink-soft wrap-anywhere">
          {[...(isIn ? outOf : [...into, ...cautions]), ...(isIn ? [] : waitWords(wait))]
            .map((text) => text.replace(/\.$/, ""))
            .join(" · ")}
        </p>
      </div>
      <div className="flex flex-wrap gap-2">
        {!isIn && wait && wait.runFor === null && (
          <Act act="begin" what={id} seen={seen}>
            Begin <span className="sr-only">{name}</span>
          </Act>
        )}
        <Act act={isIn ? "leave" : "enter"} what={id} seen={seen}>
          {isIn ? "End it" : wait ? "It is so" : "Make it so"} <span className="sr-only">{name}</span>
        </Act>
      </div>
    </li>
  );
}

function waitWords(wait: StateView["wait"]): string[] {
  if (!wait) return [];
  const words = [
    ...(wait.belowC === null ? [] : [`below ${bothDegrees(wait.belowC)}`]),
    ...(wait.minutes === null ? [] : [`after ${inHours(wait.minutes)}`]),
  ].join(", or ");
  return [words, ...(wait.runFor === null ? [] : [`begun ${inHours(wait.runFor)} ago`])];
}

function ItIs({ fault, seen }: { fault: FaultView; seen: number }) {
  return (
    <Form method="post" preventScrollReset className="panel flex flex-wrap items-end gap-2 p-3">
      <input type="hidden" name="intent" value="do" />
      <input type="hidden" name="seen" value={seen} />
      <div className="min-w-0 flex-1 basis-64">
        <label htmlFor="which" className="mb-1 block font-semibold">
          The cause
        </label>
        <select id="which" name="cause" className="field" defaultValue="">
          <option value="">Choose …</option>
          {fault.causes.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          <option value={UNKNOWN_CAUSE}>Not found</option>
        </select>
      </div>
      <button name="act" value="remedy" className="btn">
        Remedy it here
      </button>
      <button name="act" value="hand-over" className="btn">
        Hand it over
      </button>
    </Form>
  );
}

function Act({
  act,
  what,
  minutes,
  seen,
  className = "btn",
  children,
}: {
  act: string;
  what?: string;
  minutes?: number;
  seen: number;
  className?: string;
  children: React.ReactNode;
}) {
  const isBusy = useNavigation().state !== "idle";
  return (
    <Form
      method="post"
      // What it came to is read from its beginning.
      preventScrollReset={act !== "done"}
      className="h-full"
      onSubmit={(event) => isBusy && event.preventDefault()}
    >
      <input type="hidden" name="intent" value="do" />
      <input type="hidden" name="seen" value={seen} />
      {what !== undefined && <input type="hidden" name="what" value={what} />}
      {minutes !== undefined && <input type="hidden" name="minutes" value={minutes} />}
      <button name="act" value={act} className={className}>
        {children}
      </button>
    </Form>
  );
}
