import { foldRun, missingSteps, nextSteps, type RunEvent, type RunEventBody, sheetSteps, type StepRef } from "@core";
import type { Dispatch, SetStateAction } from "react";
import { useCallback, useMemo, useState } from "react";
import { Link } from "react-router";
import { v7 as uuidv7 } from "uuid";

import { firmDay } from "~/kit/days/firm-day.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { getDraft } from "~/procedures/drafts.server";
import { getProcedure, wholeProcedure } from "~/procedures/procedures.server";
import { Notice } from "~/ui/notice";
import { titleOf } from "~/ui/title-of";
import { useHydrated } from "~/ui/use-hydrated";

import type { Route } from "./+types/practice.route";
import { BenchLanes } from "./bench-lanes";
import { ComesFirst } from "./comes-first";
import { serverClock } from "./log/server-clock";
import { isRunning } from "./sheet-clocks";
import { SheetFactsProvider } from "./sheet-facts";
import { practiceSchema } from "./sheet-schemas";
import { StepCard } from "./step-card";
import { StepTrail } from "./step-trail";
import { useNow, useSheetClocks } from "./timers";
import { useHeadingFocus } from "./use-heading-focus";
import { same, useShownStep } from "./use-shown-step";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Practice: ${data.procedure.title}`, "Practice") },
];

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const draft = readQuery(request, practiceSchema).draft ?? null;
    const procedure = draft
      ? await wholeProcedure((await getDraft(draft)).body)
      : await getProcedure(params.procedureId);
    return { procedure, draft, today: (await firmDay(new Date())).on };
  });
}

const RUN = "practice";
const NOBODY = new Set<string>();

/** A procedure on a machine that does not exist: every tap works as on the real sheet, and nothing is logged. */
export default function Practice({ loaderData }: Route.ComponentProps) {
  const { procedure, draft, today } = loaderData;
  const hydrated = useHydrated();
  const [entries, setEntries] = useState<RunEvent[]>([]);
  const [ahead, setAhead] = useState(0);
  const [options, setOptions] = useState<string[]>(procedure.options.map((one) => one.id));
  const state = useMemo(() => foldRun(procedure, entries), [procedure, entries]);
  const machine = useMemo(() => ({ options, slots: {} }), [options]);
  const facts = useMemo(() => ({ machine, instruments: [], today }), [machine, today]);
  const steps = useMemo(() => sheetSteps(procedure, state, machine), [procedure, state, machine]);
  const next = useMemo(() => nextSteps(procedure, state, machine), [procedure, state, machine]);
  const running = steps.some(isRunning);
  const now = useNow(running, ahead);
  const { chosen, shown, choose, follow } = useShownStep(steps, next, procedure);
  const isOpen = (ref: StepRef): boolean => next.some((one) => same(one, ref));
  const log = useCallback(
    (...bodies: RunEventBody[]) => {
      const at = new Date(serverClock.now().at + ahead).toISOString();
      setEntries((known) => [
        ...known,
        ...bodies.map((body) => ({ id: uuidv7(), runId: RUN, at, by: RUN, device: RUN, ...body })),
      ]);
      follow(bodies);
    },
    [ahead, follow],
  );
  const elapsed = shown?.state?.timer && now !== null ? (now - Date.parse(shown.state.timer.startedAt)) / 60_000 : null;
  useSheetClocks(steps, choose, ahead);
  useHeadingFocus(shown && `${shown.step}#${shown.round}#${shown.settled}`, chosen !== null);
  const missing = missingSteps(procedure, state, machine);
  return (
    <SheetFactsProvider value={facts}>
      <div className="pb-20 sm:pb-0">
        <p className="text-sm">
          <Link to={draft ? `/book/drafts/${draft}` : `/book/procedures/${procedure.id}`}>
            {draft ? "Back to the draft" : "The procedure"}
          </Link>
        </p>
        <h1 className="mt-1 text-xl">Practice: {procedure.title}</h1>
        <div className="my-3">
          <Notice title="A machine that does not exist">
            Nothing here is logged; no stock moves, nothing becomes due.
          </Notice>
        </div>
        <PracticeChoices
          procedure={procedure}
          options={options}
          setOptions={setOptions}
          setAhead={setAhead}
          ahead={ahead}
          entries={entries}
          setEntries={setEntries}
        />
        <div className="grid gap-6 lg:grid-cols-[1fr_19rem]">
          <div>
            <BenchLanes steps={steps} next={next} ledger={state.ledger} shown={shown} now={now} onOpen={choose} />
            {shown ? (
              <>
                <p id="step-place" className="sr-only">
                  Step {steps.indexOf(shown) + 1} of {steps.length}
                </p>
                <ComesFirst steps={steps} next={next} shown={shown} onOpen={choose} />
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
                <div className="mt-4 flex gap-2">
                  {isOpen(shown) && shown.definition.kind !== "safety" && (
                    <button
                      type="button"
                      className="btn"
                      onClick={() =>
                        log({ type: "step-skipped", step: shown.step, round: shown.round, reason: "practice" })
                      }
                    >
                      Skip
                    </button>
                  )}
                </div>
              </>
            ) : (
              <div className="panel p-6">
                <h2 className="text-2xl">{missing.length === 0 ? "Every step is settled." : "Not settled yet"}</h2>
                <p className="mt-2">
                  {state.findings.length > 0 ? `${state.findings.length} findings. ` : ""}
                  {missing.length === 0
                    ? "On a real machine you would sign now."
                    : missing.map((one) => one.title).join(", ")}
                </p>
              </div>
            )}
          </div>
          <aside aria-label="Steps" className="hidden lg:block">
            <StepTrail steps={steps} shown={shown} next={next} unsent={NOBODY} onOpen={choose} />
          </aside>
        </div>
      </div>
    </SheetFactsProvider>
  );
}

/** What the invented machine has, and how fast its clocks run. */
function PracticeChoices({
  procedure,
  options,
  setOptions,
  setAhead,
  ahead,
  entries,
  setEntries,
}: {
  procedure: Route.ComponentProps["loaderData"]["procedure"];
  options: string[];
  setOptions: Dispatch<SetStateAction<string[]>>;
  setAhead: Dispatch<SetStateAction<number>>;
  ahead: number;
  entries: RunEvent[];
  setEntries: Dispatch<SetStateAction<RunEvent[]>>;
}) {
  return (
    <div className="mb-4 flex flex-wrap items-center gap-x-5 gap-y-2">
      {procedure.options.map((option) => (
        <label key={option.id} className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-(--fill)"
            checked={options.includes(option.id)}
            onChange={(event) =>
              setOptions(event.target.checked ? [...options, option.id] : options.filter((one) => one !== option.id))
            }
          />
          {option.name}
        </label>
      ))}
      <button type="button" className="btn" onClick={() => setAhead(ahead + 5 * 60_000)}>
        Let 5 minutes pass
      </button>
      <button
        type="button"
        className="btn"
        aria-disabled={entries.length === 0}
        onClick={() => setEntries(entries.slice(0, -1))}
      >
        Undo
      </button>
      <button type="button" className="btn" onClick={() => setEntries([])}>
        Begin again
      </button>
    </div>
  );
}
