import {
  foldRun,
  isFaultProcedure,
  minutesOfEntry,
  missingSteps,
  nextSteps,
  type RunEvent,
  type RunEventBody,
  sheetSteps,
  type StepRef,
} from "@core";
import { useCallback, useMemo } from "react";
import { Form, Link, redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";

import { firmDay } from "~/kit/days/firm-day.server";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { useMe } from "~/people/use-me";
import { getDraft } from "~/procedures/drafts.server";
import { getProcedure, wholeProcedure } from "~/procedures/procedures.server";
import { BenchLanes } from "~/sheet/bench-lanes";
import { ComesFirst } from "~/sheet/comes-first";
import { serverClock } from "~/sheet/log/server-clock";
import { isRunning } from "~/sheet/sheet-clocks";
import { SheetFactsProvider } from "~/sheet/sheet-facts";
import { StepCard } from "~/sheet/step-card";
import { StepTrail } from "~/sheet/step-trail";
import { wantsReading } from "~/sheet/steps/wants-reading";
import { useNow, useSheetClocks } from "~/sheet/timers";
import { useHeadingFocus } from "~/sheet/use-heading-focus";
import { same, useShownStep } from "~/sheet/use-shown-step";
import { Notice } from "~/ui/notice";
import { titleOf } from "~/ui/title-of";
import { useHydrated } from "~/ui/use-hydrated";

import type { Route } from "./+types/sheet-practice.route";
import { beginSheet, handIn, runOf } from "./practice.server";
import { PracticeChoices } from "./practice-choices";
import { beginSheetSchema, handInSchema, practiceSchema } from "./practice-schemas";
import { SheetShows } from "./sheet-shows";
import { useSoFar } from "./use-so-far";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Practice: ${data.procedure.title}`, "Practice") },
];

export function loader({ params, request, context }: Route.LoaderArgs) {
  return served(async () => {
    const { draft = null, run: runId = null } = readQuery(request, practiceSchema);
    const run = runId === null ? null : await runOf(actorOf(context), runId);
    if (run?.finishedAt) throw redirect(`/machines/practice/${run.id}`);
    const procedure = draft
      ? await wholeProcedure((await getDraft(draft)).body)
      : await getProcedure(params.procedureId, run?.version ?? null);
    const today = (await firmDay(new Date())).on;
    return { procedure, draft, today, run: run && { id: run.id, seed: run.seed } };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    sheet: form(beginSheetSchema, async ({ procedure }, who, now) =>
      redirect(`/practice/${procedure}?run=${await beginSheet(who, procedure, now)}`),
    ),
    "hand-in": form(handInSchema, async ({ entries, options = "" }, who, now) => {
      const { run = "" } = readQuery(args.request, practiceSchema);
      await handIn(who, run, { entries, options: options.split(" ") }, now);
      return redirect(`/machines/practice/${run}`);
    }),
  });
}

const TRIED = "practice";
const NOBODY = new Set<string>();

/**
 * A sheet on a machine that does not exist: every tap works as on the real one. Tried only, nothing is kept; practised, the machine
 * shows what there is to be read and seen, its time goes on with the work, and it is judged when it is handed in.
 */
export default function SheetPractice({ loaderData, actionData }: Route.ComponentProps) {
  const { procedure, draft, today, run } = loaderData;
  const me = useMe();
  const hydrated = useHydrated();
  const { entries, setEntries, ahead, setAhead, options, setOptions } = useSoFar(procedure, run);
  const state = useMemo(() => foldRun(procedure, entries), [procedure, entries]);
  const machine = useMemo(() => ({ options, slots: {} }), [options]);
  const facts = useMemo(() => ({ machine, instruments: [], today }), [machine, today]);
  const steps = useMemo(() => sheetSteps(procedure, state, machine), [procedure, state, machine]);
  const next = useMemo(() => nextSteps(procedure, state, machine), [procedure, state, machine]);
  const running = steps.some(isRunning);
  const now = useNow(running || run !== null, ahead);
  const { chosen, shown, choose, follow } = useShownStep(steps, next, (one) => wantsReading(one, procedure.steps));
  const isOpen = (ref: StepRef): boolean => next.some((one) => same(one, ref));
  const log = useCallback(
    (...bodies: RunEventBody[]) => {
      // In practice the work itself takes its typical minutes.
      const worked = run === null ? 0 : bodies.reduce((sum, body) => sum + workedMs(procedure.steps, body), 0);
      const at = new Date(serverClock.now().at + ahead + worked).toISOString();
      if (worked > 0) setAhead(ahead + worked);
      const by = { runId: run?.id ?? TRIED, by: me?.id ?? TRIED, device: TRIED };
      setEntries((known) => [...known, ...bodies.map((body) => ({ id: uuidv7(), at, ...by, ...body }))]);
      follow(bodies);
    },
    [ahead, follow, me?.id, procedure.steps, run, setAhead, setEntries],
  );
  const elapsed = minutesSince(shown?.state?.timer?.startedAt, now);
  const minute = minutesSince(entries[0]?.at, now) ?? 0;
  useSheetClocks(steps, choose, ahead);
  useHeadingFocus(shown && `${shown.step}#${shown.round}#${shown.settled}`, chosen !== null);
  const missing = missingSteps(procedure, state, machine);
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  return (
    <SheetFactsProvider value={facts}>
      <div className="pb-20 sm:pb-0">
        <p className="text-sm">
          <Link to={draft ? `/book/drafts/${draft}` : `/book/procedures/${procedure.id}`}>
            {draft ? "Back to the draft" : "The procedure"}
          </Link>
        </p>
        <h1 className="mt-1 text-xl">Practice: {procedure.title}</h1>
        {problem && <Notice tone="problem">{problem}</Notice>}
        <div className="my-3">
          <About isJudged={run !== null} isDraft={draft !== null} procedureId={procedure.id} />
        </div>
        <PracticeChoices
          {...{ procedure, options, setOptions, setAhead, entries, setEntries, steps, now }}
          isJudged={run !== null}
        />
        <div className="grid gap-6 lg:grid-cols-[1fr_19rem]">
          <div className="min-w-0">
            <BenchLanes steps={steps} next={next} ledger={state.ledger} shown={shown} now={now} onOpen={choose} />
            {shown ? (
              <>
                <p id="step-place" className="sr-only">
                  Step {steps.indexOf(shown) + 1} of {steps.length}
                </p>
                <ComesFirst steps={steps} next={next} shown={shown} onOpen={choose} />
                {run && (
                  <SheetShows
                    machine={{ family: procedure.family, seed: run.seed }}
                    one={shown}
                    minute={Math.round(minute)}
                  />
                )}
                <StepCard
                  key={`${shown.step}#${shown.round}#${shown.definition.kind === "safety" ? "" : (shown.state?.lastEventId ?? "")}`}
                  procedure={procedure}
                  state={state}
                  one={shown}
                  open={
                    hydrated &&
                    isOpen(shown) &&
                    (shown.definition.kind === "safety" || shown.state?.status !== "running")
                  }
                  log={log}
                  ghosts={{}}
                  elapsedMinutes={elapsed}
                  leave={() => choose(null)}
                />
                {isOpen(shown) && shown.definition.kind !== "safety" && (
                  <div className="mt-4 flex gap-2">
                    <button
                      type="button"
                      className="btn"
                      onClick={() =>
                        log({ type: "step-skipped", step: shown.step, round: shown.round, reason: "practice" })
                      }
                    >
                      Skip
                    </button>
                  </div>
                )}
              </>
            ) : (
              <NothingOpen missing={missing.map((one) => one.title)} findings={state.findings.length} />
            )}
            {run && <HandIn entries={entries} options={options} isDone={shown === null} />}
          </div>
          <aside aria-label="Steps" className="hidden lg:block">
            <StepTrail steps={steps} shown={shown} next={next} unsent={NOBODY} onOpen={choose} />
          </aside>
        </div>
      </div>
    </SheetFactsProvider>
  );
}

function NothingOpen({ missing, findings }: { missing: readonly string[]; findings: number }) {
  return (
    <div className="panel p-6">
      <h2 className="text-2xl">{missing.length === 0 ? "Every step is settled." : "Not settled yet"}</h2>
      <p className="mt-2">
        {findings > 0 ? `${findings} findings. ` : ""}
        {missing.length === 0 ? "On a real machine you would sign now." : missing.join(", ")}
      </p>
    </div>
  );
}

/** Minutes since one moment, at another; none before the first. */
const minutesSince = (from: string | undefined, now: number | null): number | null =>
  from === undefined || now === null ? null : (now - Date.parse(from)) / 60_000;

type Steps = Route.ComponentProps["loaderData"]["procedure"]["steps"];

function workedMs(steps: Steps, body: RunEventBody): number {
  const step = "step" in body ? steps.find((one) => one.id === body.step) : undefined;
  return step ? minutesOfEntry(step, body) * 60_000 : 0;
}

function About({ isJudged, isDraft, procedureId }: { isJudged: boolean; isDraft: boolean; procedureId: string }) {
  if (isJudged)
    return (
      <Notice title="A machine that does not exist, judged when it is handed in">
        It shows what there is to be read and seen. Its time goes on with the work; soaks have to be waited for.
      </Notice>
    );
  return (
    <Notice title="A machine that does not exist">
      Nothing here is logged; no stock moves, nothing becomes due.
      {isFaultProcedure(procedureId) && (
        <span className="mt-2 block">
          <Link to="/machines/practice">Find a fault that nobody tells</Link>
        </span>
      )}
      {!isDraft && !isFaultProcedure(procedureId) && (
        <Form method="post" className="mt-2">
          <input type="hidden" name="intent" value="sheet" />
          <input type="hidden" name="procedure" value={procedureId} />
          <button className="btn">Practise it on a machine that answers</button>
        </Form>
      )}
    </Notice>
  );
}

function HandIn({ entries, options, isDone }: { entries: RunEvent[]; options: string[]; isDone: boolean }) {
  // Not with every second of the clock.
  const text = useMemo(() => JSON.stringify(entries), [entries]);
  return (
    <Form method="post" className="mt-5">
      <input type="hidden" name="intent" value="hand-in" />
      <input type="hidden" name="entries" value={text} />
      <input type="hidden" name="options" value={options.join(" ")} />
      <button
        className={isDone ? "btn btn-main btn-big" : "btn"}
        aria-disabled={entries.length === 0}
        onClick={(event) => entries.length === 0 && event.preventDefault()}
      >
        {isDone ? "Hand it in" : "Give up and hand it in"}
      </button>
    </Form>
  );
}
