import { must, nextSteps, type RunEventBody, runResults, type SheetStep, sheetSteps, type StepRef } from "@core";
import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { Link, redirect, useNavigate } from "react-router";

import { WHAT_WAS_LEFT } from "~/duties/general-procedures";
import { dayInZone } from "~/kit/days/site-day";
import { served } from "~/kit/server/served.server";
import { useMachineNow } from "~/machines/use-machine-now";
import { colleaguesOf } from "~/people/people.server";
import { actorOf } from "~/people/session.server";
import { learnedFaults } from "~/sheet/find/learned-faults.server";
import { pastTrials } from "~/sheet/log/past-trials.server";
import { recentValues } from "~/sheet/log/past-values.server";
import { loadSheet } from "~/sheet/log/sheets.server";
import { useSheetLog } from "~/sheet/log/use-sheet-log";
import { Notice } from "~/ui/notice";
import { titleOf } from "~/ui/title-of";
import { useHydrated } from "~/ui/use-hydrated";
import { isTuned } from "~/wear/intervals/tuned-duties";
import { wearOnSheet } from "~/wear/wear-on-sheet.server";

import type { Route } from "./+types/sheet.route";
import { BenchLanes } from "./bench-lanes";
import { ComesFirst } from "./comes-first";
import { EndSheet } from "./end-sheet";
import { FoundPanel } from "./find/found-panel";
import { HoldsForNow } from "./for-now";
import { FoundAtService } from "./found-at-service";
import { FoundHere } from "./found-here";
import { HandedOver } from "./handed-over";
import { instrumentsOfKinds } from "./instruments.server";
import { BeforeStartCard } from "./left/before-start";
import { beforeStart } from "./left/before-start.server";
import { LeftHere } from "./left/left-here";
import { freeMeanwhile } from "./meanwhile";
import { meanwhileButton } from "./meanwhile-button";
import { isRunning } from "./sheet-clocks";
import { SheetFactsProvider } from "./sheet-facts";
import { SheetTools } from "./sheet-tools";
import { StepCard } from "./step-card";
import { StepTrail } from "./step-trail";
import { wantsReading } from "./steps/wants-reading";
import { wantsDecision } from "./steps/wear-of-step";
import { useNow, useSheetClocks } from "./timers";
import { useElsewhere } from "./use-elsewhere";
import { useHeadingFocus } from "./use-heading-focus";
import { firstInOrder, same, useShownStep } from "./use-shown-step";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.title, "Sheet") },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const view = await loadSheet(params.sheetId);
    if (view.sheet.status !== "open") throw redirect(`/book/records/${params.sheetId}`);
    const { id: me, role } = actorOf(context);
    const kinds = view.procedure.steps.flatMap((step) =>
      step.kind === "measure" && step.instrument ? [step.instrument] : [],
    );
    return {
      ...view,
      me,
      isLead: role === "lead",
      ghosts: await recentValues(view.sheet.machineId),
      learned: await learnedFaults(view.procedure, view.machine, view.sheet.id),
      past: await pastTrials(view.sheet.machineId, view.procedure, view.timeZone),
      instruments: (await instrumentsOfKinds([...new Set(kinds)])).map(({ id, code, kind, name, calibrationDue }) => ({
        id,
        code,
        kind,
        name,
        calibrationDue,
      })),
      colleagues: await colleaguesOf(me),
      before: await beforeStart(view.sheet.machineId, view.sheet.id, new Date()),
      today: dayInZone(new Date(), view.timeZone),
      wear: await wearOnSheet({ ...view.sheet, procedure: view.procedure }, new Date()),
    };
  });
}

export default function Sheet({ loaderData }: Route.ComponentProps) {
  const {
    sheet,
    title,
    procedure,
    machine,
    entries: loaded,
    me,
    isLead,
    persons,
    ghosts,
    slots,
    instruments,
    colleagues,
    past,
    learned,
    before,
    today,
    wear,
  } = loaderData;
  const { holds } = before;
  const navigate = useNavigate();
  const hydrated = useHydrated();
  const { state, entries, unsent, log } = useSheetLog(sheet.id, procedure, loaded, me);
  const facts = useMemo(() => ({ options: machine.options, slots }), [machine.options, slots]);
  const sheetFacts = useMemo(() => {
    const names = new Map([...Object.entries(persons), ...colleagues.map((one) => [one.id, one.name] as const)]);
    const nameOf = (id: string): string => names.get(id) ?? "a colleague";
    const hands = { sheetId: sheet.id, me, isLead, nameOf };
    const { meters } = runResults(procedure, state, facts);
    return {
      ...{ machine: facts, instruments, today, pastTrials: past, hands, wear: { slots: wear, meters } },
      ...(learned && { learned }),
    };
  }, [facts, instruments, today, past, learned, persons, colleagues, sheet.id, me, isLead, wear, procedure, state]);
  const steps = useMemo(() => sheetSteps(procedure, state, facts), [procedure, state, facts]);
  const next = useMemo(() => nextSteps(procedure, state, facts), [procedure, state, facts]);
  const wants = (one: SheetStep | null): boolean =>
    wantsReading(one, procedure.steps) || wantsDecision(one, procedure.steps, sheetFacts.wear);
  const { chosen, shown, choose: show, follow } = useShownStep(steps, next, wants);
  const [showTrail, setShowTrail] = useState(false);
  const using = useState(false);

  const running = steps.some(isRunning);
  const now = useNow(running);
  const settled = steps.filter((one) => one.settled).length;
  const open = (one: StepRef): boolean => next.some((ref) => same(ref, one));
  const elapsed = shown?.state?.timer && now !== null ? (now - Date.parse(shown.state.timer.startedAt)) / 60_000 : null;

  // After a tap, follow the work on, unless the step still wants something.
  const logAndGoOn = useCallback(
    (...bodies: RunEventBody[]) => {
      log(...bodies);
      follow(bodies);
    },
    [log, follow],
  );
  const choose = (one: StepRef): void => {
    show(one);
    setShowTrail(false);
  };

  useMachineNow(machine.id, { holds, reports: before.reports });
  useSheetClocks(steps, choose);
  useHeadingFocus(shown && `${shown.step}#${shown.round}#${shown.settled}`, chosen !== null);
  const meanwhile = shown && freeMeanwhile(steps, next, shown, now);
  const elsewhere = useElsewhere(sheet.id, meanwhile !== null && meanwhile.head === null);

  // A sheet closed here or on another device has become a record, as soon as the server has it.
  const closedAndSent = (state.status === "signed" || state.status === "ended") && unsent.size === 0;
  useEffect(() => {
    if (closedAndSent) void navigate(`/book/records/${sheet.id}`);
  }, [closedAndSent, navigate, sheet.id]);

  const isAllLeft = sheet.procedureId === WHAT_WAS_LEFT;
  const leftHere = (
    <LeftHere
      items={before.left}
      today={today}
      procedure={procedure}
      state={state}
      machine={facts}
      one={shown}
      log={log}
      large={isAllLeft}
    />
  );

  return (
    <SheetFactsProvider value={sheetFacts}>
      <div className="pb-20 sm:pb-0">
        <div className="mt-3 mb-4 flex items-center justify-between gap-x-4">
          <div className="min-w-0">
            <p className="text-sm text-ink-soft wrap-anywhere">
              <Link to={`/machines/${machine.id}`}>{machine.name}</Link> <span className="figure">{machine.tag}</span> ·{" "}
              {machine.siteName}
            </p>
            <h1 className="text-lg wrap-anywhere">{title}</h1>
          </div>
          <button
            type="button"
            className="btn shrink-0 lg:hidden"
            aria-expanded={showTrail}
            onClick={() => setShowTrail(!showTrail)}
          >
            <span className="figure">
              {settled}/{steps.length}
            </span>{" "}
            steps
          </button>
        </div>
        {holds.length > 0 && (
          <div className="mb-3">
            <Notice tone="problem" title="Out of service">
              {must(holds[0]).reason.replace(/[.!?]?$/, ".")} Who returns it signs on the machine&apos;s page.
            </Notice>
          </div>
        )}
        {state.handedTo !== null && state.handedTo !== me && (
          <div className="mb-3">
            <Notice title="Handed over">This sheet is in a colleague's hands now; what you log still counts.</Notice>
          </div>
        )}
        {state.status === "ended" && (
          <Notice title="Ended without the work">It becomes a record as soon as it is sent.</Notice>
        )}

        {before.reports
          .filter((report) => report.at > sheet.openedAt)
          .map((report) => (
            <div key={report.id} className="mb-3">
              <Notice title={report.stopped ? "Reported just now: machine stopped" : "Reported just now"}>
                {report.text} ({report.name})
              </Notice>
            </div>
          ))}
        <HandedOver entries={entries} me={me} persons={persons} />
        <BeforeStartCard facts={{ ...before, holds: [] }} begun={settled > 0} />

        <div className="grid gap-6 lg:grid-cols-[1fr_19rem]">
          <div className={showTrail ? "hidden lg:block" : ""}>
            {chosen && !same(chosen, firstInOrder(steps, next) ?? chosen) && (
              <p className="mb-3">
                <button type="button" className="btn" onClick={() => show(null)}>
                  Back to where the work is
                </button>
              </p>
            )}
            <BenchLanes steps={steps} next={next} ledger={state.ledger} shown={shown} now={now} onOpen={choose} />
            {shown ? (
              <>
                <p id="step-place" className="sr-only">
                  Step {steps.indexOf(shown) + 1} of {steps.length}
                </p>
                <ComesFirst steps={steps} next={next} shown={shown} onOpen={choose} />
                <StepCard
                  // A gate keeps its ticks while its clock or its temperature is logged, a search the check that was chosen.
                  key={`${shown.step}#${shown.round}#${["safety", "find"].includes(shown.definition.kind) ? "" : (shown.state?.lastEventId ?? "")}`}
                  procedure={procedure}
                  state={state}
                  one={shown}
                  open={
                    hydrated && open(shown) && (shown.definition.kind === "safety" || shown.state?.status !== "running")
                  }
                  log={logAndGoOn}
                  ghosts={ghosts}
                  elapsedMinutes={elapsed}
                  meanwhile={meanwhileButton(meanwhile, elsewhere, choose)}
                  leave={() => show(null)}
                  used={() => using[1](true)}
                />
                {isAllLeft && leftHere}
                <FoundPanel procedure={procedure} run={state} shown={shown} log={log} />
                <SheetTools
                  sheetId={sheet.id}
                  procedure={procedure}
                  colleagues={colleagues}
                  one={shown}
                  entries={entries}
                  me={me}
                  open={open(shown)}
                  log={logAndGoOn}
                  using={using}
                />
              </>
            ) : (
              state.status === "working" && (
                <AllDone sheetId={sheet.id} unsent={unsent.size}>
                  {isTuned(loaderData.duty) && (
                    <FoundAtService procedure={procedure} state={state} machine={facts} log={log} />
                  )}
                </AllDone>
              )
            )}
            {!shown && (
              <SheetTools
                sheetId={sheet.id}
                procedure={procedure}
                colleagues={colleagues}
                one={null}
                entries={entries}
                me={me}
                open={false}
                log={logAndGoOn}
                using={using}
              />
            )}
            {!isAllLeft && leftHere}
            <HoldsForNow interim={state.interim} log={log} />
            <FoundHere machineId={machine.id} procedure={procedure} findings={state.findings} />
          </div>
          <aside aria-label="Steps" className={showTrail ? "" : "hidden lg:block"}>
            <p className="figure mb-2 text-sm">
              {settled} of {steps.length} settled
            </p>
            <StepTrail steps={steps} shown={shown} next={next} unsent={unsent} onOpen={choose} />
            <div className="mt-4 space-y-2 border-t border-line pt-4">
              <Link to={`/sheet/${sheet.id}/sign`} className="btn w-full">
                To the signatures
              </Link>
              <Link to={`/sheet/${sheet.id}/paper`} className="btn w-full">
                Key in from paper
              </Link>
              <EndSheet procedure={procedure} today={today} log={log} />
            </div>
          </aside>
        </div>
      </div>
    </SheetFactsProvider>
  );
}

function AllDone({ sheetId, unsent, children }: { sheetId: string; unsent: number; children: ReactNode }) {
  return (
    <div className="panel p-6">
      <h2 className="text-2xl">Every step is settled.</h2>
      <p className="mt-2 mb-5">
        {unsent > 0 ? "Wait until everything is sent, then sign." : "Now the customer and you sign."}
      </p>
      {children}
      <Link to={`/sheet/${sheetId}/sign`} className="btn btn-main btn-big">
        Sign
      </Link>
    </div>
  );
}
