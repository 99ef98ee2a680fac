import { type OpenCheck, type RunEventBody, type RunState, type SheetStep, UNKNOWN_CAUSE } from "@core";
import { useMemo, useState } from "react";

import { inHours } from "~/kit/days/day-time";
import { Actions } from "~/sheet/steps/actions";
import { at, type StepCardProps } from "~/sheet/steps/step-props";
import { Disclosure } from "~/ui/disclosure";
import { Why } from "~/ui/why";

import { ReasonDialog } from "../reason-dialog";
import { useSheetFacts } from "../sheet-facts";
import { outcomeOf } from "../step-outcome";
import { CARD_TITLE, useHeadingFocus } from "../use-heading-focus";
import { CausesLeft } from "./causes-left";
import { CheckCard } from "./check-card";
import { chanceWords, checkLine, type FindView, findView, symptomOf } from "./find-view";
import { GateCard } from "./gate-card";

type FindProps = StepCardProps<"find"> & { run: RunState };
type Log = (...bodies: RunEventBody[]) => void;

/** The search for a fault's cause: one check large, why this one, and the causes as a list that shrinks. */
export function FindStep({ procedure, run, ...props }: FindProps) {
  const { machine, learned } = useSheetFacts();
  const { one } = props;
  const causes = learned?.chances[symptomOf(one.definition, run)?.id ?? ""];
  // Not with every second of a running clock.
  const view = useMemo(
    () => findView(procedure, run, one, machine.options, causes),
    [procedure, run, one, machine.options, causes],
  );
  if (!view) return <p className="text-lg">Say first what is wrong.</p>;
  const { search } = view;
  return (
    <>
      <p className="mb-4 text-lg">
        “{search.symptom.says}”{" "}
        {!one.settled && search.expectedMinutes > 0 && (
          <span className="text-base text-ink-soft">
            about {inHours(search.expectedMinutes)} to the cause from here
          </span>
        )}
      </p>
      <div className="grid gap-x-8 lg:grid-cols-[1fr_16rem]">
        <div className="min-w-0">
          {one.settled ? <Settled view={view} {...props} /> : <Search view={view} {...props} />}
        </div>
        <div className="mt-5 min-w-0 lg:mt-0">
          <CausesLeft causes={search.causes} learned={causes} />
          <Why because={search.because} />
          <Checked view={view} {...props} />
        </div>
      </div>
    </>
  );
}

type PartProps = Pick<FindProps, "one" | "open" | "log"> & { view: FindView };

function Search({ view: { search }, one, open, log }: PartProps) {
  const [chosen, setChosen] = useState<string | null>(null);
  const best = search.open[0];
  const next = search.open.find(({ check }) => check.id === chosen) ?? best;
  const isOver = !next || (next.chance <= 0 && chosen === null);
  const gate = next?.gates[0];
  const card = gate ? `${gate.state.id} ${gate.way}` : (next?.check.id ?? "");
  useHeadingFocus(isOver ? "nothing left" : card, chosen !== null, CARD_TITLE);
  if (isOver) return <NothingLeft search={search} one={one} open={open} log={log} />;
  const goOn: Log = (...bodies) => {
    setChosen(null);
    log(...bodies);
  };
  return (
    <>
      {open && gate && <GateCard key={card} gate={gate} forCheck={next.check.title} one={one} log={log} />}
      {open && !gate && (
        <CheckCard key={card} open={next} step={one.definition} one={one} likely={search.causes} log={goOn} />
      )}
      <WhyThisOne next={next} isBest={next === best} isExact={search.isExact} names={search.causes} />
      {open && (
        <div className="mt-4 space-y-2">
          <OtherChecks checks={search.open.filter((other) => other !== next)} choose={setChosen} />
          <SeenAtOnce causes={search.causes} one={one} log={log} />
          <HandOver trigger="None of these: hand it over" one={one} log={log} />
        </div>
      )}
    </>
  );
}

function HandOver({ trigger, one, log }: { trigger: string; one: SheetStep; log: Log }) {
  return (
    <ReasonDialog
      trigger={trigger}
      title="Hand it over?"
      label="What should the next one know?"
      hint="The service packet says which checks were done and what each showed."
      confirm="Hand it over"
      onConfirm={(reason) => log({ type: "step-done", ...at(one), answer: UNKNOWN_CAUSE, reason })}
    />
  );
}

/** Whoever knows the cause without a check says so. */
function SeenAtOnce({ causes, one, log }: { causes: FindView["search"]["causes"]; one: SheetStep; log: Log }) {
  return (
    <Disclosure title="I see the cause already">
      <ul className="grid gap-2 sm:grid-cols-2">
        {causes
          .filter(({ cause }) => cause !== UNKNOWN_CAUSE)
          .map(({ cause, name }) => (
            <li key={cause}>
              <button
                type="button"
                className="btn btn-big w-full justify-start text-left"
                onClick={() => log({ type: "step-done", ...at(one), answer: cause, reason: "Seen at once" })}
              >
                {name}
              </button>
            </li>
          ))}
      </ul>
    </Disclosure>
  );
}

function NothingLeft({
  search: { allRuledOut, causes },
  one,
  open,
  log,
}: Pick<PartProps, "one" | "open" | "log"> & { search: FindView["search"] }) {
  return (
    <>
      <p
        id={CARD_TITLE}
        tabIndex={-1}
        className="mb-4 scroll-mt-28 border-2 border-ink p-3 font-semibold sm:scroll-mt-44"
      >
        {allRuledOut
          ? "No cause that the guide knows goes with what the checks showed."
          : "No check is left that could find it."}{" "}
        Hand it over.
      </p>
      {open && (
        <>
          <Actions>
            <HandOver trigger="Hand it over" one={one} log={log} />
          </Actions>
          <div className="mt-4">
            <SeenAtOnce causes={causes} one={one} log={log} />
          </div>
        </>
      )}
    </>
  );
}

function Settled({ view, one }: PartProps) {
  const { answer = null } = one.state ?? {};
  const by = view.checks.find((done) => done.result === "found" && done.cause === answer);
  return (
    <p className="mb-4 border-l-4 border-tan-fill pl-3 text-lg">
      <strong>{outcomeOf(one)}</strong>
      {by && ` by “${one.definition.checks.find(({ id }) => id === by.check)?.title ?? by.check}”`}
    </p>
  );
}

function OtherChecks({ checks, choose }: { checks: readonly OpenCheck[]; choose: (check: string) => void }) {
  if (checks.length === 0) return null;
  return (
    <Disclosure title={`Another check (${checks.length})`}>
      <ul className="space-y-2">
        {checks.map(({ check, chance, wayMinutes }) => (
          <li key={check.id}>
            <button
              type="button"
              className="btn btn-big w-full justify-start text-left"
              onClick={() => choose(check.id)}
            >
              <span>
                {check.title}
                <span className="block text-sm font-normal">
                  {chance <= 0 ? "finds nothing that is left" : `${chanceWords(chance)} to show it`},{" "}
                  {inHours(check.minutes)}
                  {wayMinutes > 0 && ` after ${inHours(wayMinutes)} to get there`}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Disclosure>
  );
}

function Checked({ view: { checks }, one: { definition: step } }: PartProps) {
  if (checks.length === 0) return null;
  return (
    <section aria-label="Checks so far" className="mt-4">
      <h3 className="font-semibold">Checked</h3>
      <ul className="text-sm">
        {checks.map((done) => (
          <li key={done.eventId} className="wrap-anywhere">
            {done.result === "found" ? "● " : done.result === "clear" ? "○ " : "– "}
            {checkLine(step, done)}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Why this check is the next: its chance, its minutes, and what it would leave. */
function WhyThisOne({
  next: { check, chance, wayMinutes, rulesOut },
  isBest,
  isExact,
  names,
}: {
  next: OpenCheck;
  isBest: boolean;
  /** No other order is better; of very many checks that is not known. */
  isExact: boolean;
  names: readonly { cause: string; name: string }[];
}) {
  const out = rulesOut.flatMap((id) => names.find(({ cause }) => cause === id)?.name ?? []);
  return (
    <p className="mt-4 text-sm text-ink-soft">
      {isBest ? "This one now: " : "Chosen by you: "}
      it shows the cause in {Math.round(chance * 100)} of 100 such faults and takes {inHours(check.minutes)}
      {wayMinutes > 0 && `, ${inHours(wayMinutes)} more to get there`}.
      {out.length > 0 && ` If it shows nothing, that rules out: ${out.join(", ")}.`}
      {isBest && isExact && " No other order is expected to find it sooner."}
    </p>
  );
}
