import { type Procedure, type Step, timedBounds } from "@core";
import { type KeyboardEvent, useState } from "react";
import { Link, redirect, useNavigate } from "react-router";

import { toNumber } from "~/kit/forms/to-number";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { placesOf } from "~/sheet/item-names";
import { outbox } from "~/sheet/log/outbox";
import { recentValues } from "~/sheet/log/past-values.server";
import { loadSheet } from "~/sheet/log/sheets.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { useHydrated } from "~/ui/use-hydrated";

import type { Route } from "./+types/paper.route";
import {
  asOnPaper,
  clockFaults,
  EMPTY_LINE,
  paperEntries,
  type PaperLine,
  type PaperQuestion,
  paperQuestions,
  unnamedPlaces,
} from "./paper-entry";
import { stepsOnPaper } from "./paper-words";

export const meta: Route.MetaFunction = () => [{ title: "Key in from paper – Humble Hound" }];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const { sheet, procedure, machine, entries } = await loadSheet(params.sheetId);
    if (sheet.status !== "open") throw redirect(`/book/records/${sheet.id}`);
    const { options } = machine;
    const steps = stepsOnPaper(procedure, options);
    return {
      sheetId: sheet.id,
      procedure: { ...procedure, steps },
      machine: `${machine.name} ${machine.tag}`,
      me: actorOf(context).id,
      begun: entries.length > 1,
      past: await recentValues(sheet.machineId),
    };
  });
}

/** Results from a paper sheet, in one column: Enter goes to the next field, x is "done" or "as it should be", n is "not so". */
export default function KeyIn({ loaderData }: Route.ComponentProps) {
  const { sheetId, procedure, machine, me, begun, past } = loaderData;
  const navigate = useNavigate();
  const hydrated = useHydrated();
  const [lines, setLines] = useState<Record<string, PaperLine>>({});
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const [problem, setProblem] = useState("");
  /** Asked about, as they were filled in then. */
  const [odd, setOdd] = useState<PaperQuestion[]>([]);
  const change = (id: string, set: Partial<PaperLine>): void => {
    setOdd([]);
    setLines({ ...lines, [id]: { ...(lines[id] ?? EMPTY_LINE), ...set } });
  };
  const save = (): void => {
    const [fromMs, toMs] = [Date.parse(from), Date.parse(to)] as const;
    const fault =
      timesFault(fromMs, toMs) ??
      unreadFigures() ??
      [...clockFaults(procedure, lines, (toMs - fromMs) / 60_000), ...unnamedPlaces(procedure, lines)].join(" ");
    if (fault !== "") {
      setProblem(fault);
      return;
    }
    const entries = paperEntries(procedure, lines, { sheetId, by: me, device: "paper", fromMs, toMs });
    if (entries.length === 0) {
      setProblem("Nothing is filled in yet.");
      return;
    }
    const questions = paperQuestions(entries, procedure, { past, on: to.slice(0, 10) });
    const cannot = questions.filter((one) => one.judged.verdict === "impossible");
    if (cannot.length > 0) {
      setProblem(cannot.map(({ title, judged }) => `${title}: ${judged.because}`).join(" "));
      return;
    }
    setProblem("");
    if (questions.length > 0 && odd.length === 0) {
      setOdd(questions);
      return;
    }
    outbox.add(asOnPaper(entries, questions));
    void navigate(`/sheet/${sheetId}`);
  };
  return (
    <div className="max-w-3xl">
      <PageHead
        back={<Link to={`/sheet/${sheetId}`}>Back to the sheet</Link>}
        title="Key in from paper"
        subtitle={
          <>
            {procedure.title}, {machine}
          </>
        }
      />
      <p className="my-3">
        Enter: next field. <kbd className="figure">x</kbd>: done, as it should be. <kbd className="figure">n</kbd>: not
        so. <kbd className="figure">s</kbd>: skipped. Empty lines stay open on the sheet.
      </p>
      {begun && <Notice title="Something is logged already">What you key in here is added to it.</Notice>}
      <div className="my-4 flex flex-wrap gap-4">
        {(
          [
            ["from", "Worked from", from, setFrom],
            ["to", "until", to, setTo],
          ] as const
        ).map(([id, label, value, set]) => (
          <div key={id}>
            <label htmlFor={id} className="mb-1 block font-semibold">
              {label}
            </label>
            <input
              id={id}
              type="datetime-local"
              className="field"
              value={value}
              onChange={(event) => set(event.target.value)}
              onKeyDown={goOn}
            />
          </div>
        ))}
      </div>
      <ol className="panel divide-y divide-line">
        {procedure.steps.map((step, i) => (
          <li key={step.id} className="grid gap-x-4 gap-y-1 px-3 py-2 sm:grid-cols-[2rem_1fr_auto]">
            <span className="figure text-ink-soft">{i + 1}</span>
            <span className="wrap-anywhere">{step.title}</span>
            <Entry step={step} line={lines[step.id] ?? EMPTY_LINE} onChange={(set) => change(step.id, set)} />
            <WhichSlots
              step={step}
              procedure={procedure}
              chosen={lines[step.id]?.slots ?? []}
              onChange={(slots) => change(step.id, { slots })}
            />
          </li>
        ))}
      </ol>
      {problem && (
        <div className="mt-3">
          <Notice tone="problem">{problem}</Notice>
        </div>
      )}
      {odd.length > 0 && (
        <div className="mt-3">
          <Notice tone="problem" title="Does the paper say so?">
            <ul>
              {odd.map(({ title, judged }) => (
                <li key={`${title} ${judged.because}`} className="wrap-anywhere">
                  {title}: {judged.because}
                </li>
              ))}
            </ul>
          </Notice>
        </div>
      )}
      <button type="button" className="btn btn-main btn-big mt-4" disabled={!hydrated} onClick={save}>
        {odd.length > 0 ? "It stands so: log all of it" : "Log all of it"}
      </button>
    </div>
  );
}

function timesFault(fromMs: number, toMs: number): string | null {
  if (!(toMs > fromMs)) return "Say from when to when it was worked; the end comes after the beginning.";
  return toMs > Date.now() ? "The work ends in the future. Look at the day and the time." : null;
}

/** Takes one to the first figure that cannot be read, and says so: nothing that was typed is left out. */
function unreadFigures(): string | null {
  const unread = document.querySelectorAll<HTMLElement>("main input[aria-invalid='true']");
  unread[0]?.focus();
  if (unread.length === 0) return null;
  return unread.length === 1 ? "One figure cannot be read. Type it anew." : `${unread.length} figures cannot be read.`;
}

/** Enter goes to the next field, as in a column of figures. */
function goOn(event: KeyboardEvent<HTMLElement>): void {
  if (event.key !== "Enter") return;
  event.preventDefault();
  const fields = [...document.querySelectorAll<HTMLElement>("main input, main select, main button.btn-main")];
  fields[fields.indexOf(event.currentTarget) + 1]?.focus();
}

const MARKS: Record<string, string> = { x: "ok", n: "no", s: "skip" };
const SHOWN: Record<string, string> = { ok: "x", no: "n", skip: "s" };

function Entry({ step, line, onChange }: { step: Step; line: PaperLine; onChange: (set: Partial<PaperLine>) => void }) {
  const [texts, setTexts] = useState<Record<number, string>>({});
  const mark = (
    <input
      aria-label={`${step.title}: x done, n not so, s skipped`}
      className="field figure w-14 text-center uppercase"
      maxLength={1}
      value={SHOWN[line.mark] ?? ""}
      onChange={(event) => onChange({ mark: MARKS[event.target.value.toLowerCase()] ?? "" })}
      onKeyDown={goOn}
    />
  );
  const minutes = (
    <Figure label={`${step.title}: minutes`} unit="min" onValue={(value) => onChange({ minutes: value })} />
  );
  const labels =
    step.kind === "measure"
      ? (step.points ?? (step.trials ? Array.from({ length: step.trials }, (_, i) => `run ${i + 1}`) : [""]))
      : [""];
  const values = (unit: string) =>
    labels.map((label, i) => (
      <Figure
        key={label}
        label={`${step.title}${label ? `, ${label}` : ""}, ${unit}`}
        unit={unit}
        text={texts[i] ?? ""}
        onText={(text) => {
          const next = { ...texts, [i]: text };
          setTexts(next);
          onChange({ values: labels.map((_, at) => toNumber(next[at] ?? "")) });
        }}
      />
    ));
  const answers = step.kind === "choose" ? step.schools : step.kind === "decide" ? step.branches : [];
  return (
    <span className="flex flex-wrap items-center gap-2 sm:justify-end">
      {step.kind === "measure" && values(step.unit)}
      {step.kind === "reset" && values("")}
      {step.kind === "wait" && minutes}
      {step.kind === "safety" && step.coolDown?.belowC !== undefined && values("°C")}
      {step.kind === "safety" && timedBounds(step) && minutes}
      {answers.length > 0 && (
        <select
          aria-label={step.title}
          className="field max-w-52"
          value={line.mark}
          onChange={(event) => onChange({ mark: event.target.value })}
          onKeyDown={goOn}
        >
          <option value="">–</option>
          {answers.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
      {answers.length === 0 && step.kind !== "measure" && step.kind !== "wait" && step.kind !== "reset" && mark}
      {(line.mark === "no" || line.mark === "skip") && (
        <input
          aria-label={`${step.title}: remark`}
          className="field w-48"
          placeholder={line.mark === "skip" ? "Why?" : "What?"}
          value={line.remark}
          onChange={(event) => onChange({ remark: event.target.value })}
          onKeyDown={goOn}
        />
      )}
    </span>
  );
}

/** Where those found worn alone are renewed: which they were. */
function WhichSlots({
  step,
  procedure,
  chosen,
  onChange,
}: {
  step: Step;
  procedure: Procedure;
  chosen: readonly string[];
  onChange: (slots: string[]) => void;
}) {
  if (step.kind !== "replace" || !step.some) return null;
  return (
    <fieldset className="flex flex-wrap gap-x-4 sm:col-span-2 sm:col-start-2">
      <legend className="text-sm text-ink-soft">New ones went into</legend>
      {placesOf(procedure, step).map(({ id, name }) => (
        <label key={id} className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            checked={chosen.includes(id)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, id] : chosen.filter((other) => other !== id))
            }
            onKeyDown={goOn}
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}

function Figure({
  label,
  unit,
  text,
  onText,
  onValue,
}: {
  label: string;
  unit: string;
  text?: string;
  onText?: (text: string) => void;
  onValue?: (value: number | null) => void;
}) {
  const [own, setOwn] = useState("");
  const value = text ?? own;
  const wrong = value.trim() !== "" && toNumber(value) === null;
  return (
    <span className="flex items-center gap-1">
      <input
        aria-label={label}
        aria-invalid={wrong}
        className="field figure w-24"
        inputMode="decimal"
        autoComplete="off"
        value={value}
        onChange={(event) => {
          setOwn(event.target.value);
          onText?.(event.target.value);
          onValue?.(toNumber(event.target.value));
        }}
        onKeyDown={goOn}
      />
      <span className="w-10 text-sm">{unit}</span>
    </span>
  );
}
