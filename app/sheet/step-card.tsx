import { useState, type ReactNode } from "react";
import type { Procedure, RunEventBody, SheetStep, Step } from "@core";
import { SafetySign } from "~/components/safety-sign";
import { LimitRuler } from "./limit-ruler";
import { clock } from "./timers";

export interface StepCardProps<Kind extends Step["kind"] = Step["kind"]> {
  procedure: Procedure;
  one: SheetStep & { definition: Extract<Step, { kind: Kind }> };
  /** May be worked now; a later step is shown, but takes nothing. */
  open: boolean;
  log: (...bodies: RunEventBody[]) => void;
  ghosts: Record<string, number[]>;
  elapsedMinutes: number | null;
}

/** One step, large: what to do, what it should come to, and the buttons that log it. */
export function StepCard(props: StepCardProps) {
  const { one, procedure } = props;
  const { definition } = one;
  return (
    <article aria-labelledby="step-title" className="panel p-4 sm:p-6">
      {one.round > 1 && <p className="mb-1 font-semibold">Round {one.round}</p>}
      <h2 id="step-title" className="text-2xl sm:text-3xl">
        {definition.title}
      </h2>
      {definition.text && <p className="mt-2 text-lg">{definition.text}</p>}
      {definition.kind === "safety" && (
        <ul className="mt-4 space-y-2">
          {procedure.hazards.map((hazard) => (
            <li key={hazard.text} className="flex items-center gap-3">
              <SafetySign kind={hazard.kind} size={44} />
              <span>{hazard.text}</span>
            </li>
          ))}
        </ul>
      )}
      <div className="mt-5">
        <Body {...props} />
      </div>
    </article>
  );
}

function Body(props: StepCardProps): ReactNode {
  switch (props.one.definition.kind) {
    case "safety":
      return <Safety {...(props as StepCardProps<"safety">)} />;
    case "do":
      return <Simple {...props} button="Done" />;
    case "hand-off":
      return <Simple {...props} button="Handed over" />;
    case "prove":
      return <Prove {...(props as StepCardProps<"prove">)} />;
    case "inspect":
      return <Inspect {...(props as StepCardProps<"inspect">)} />;
    case "measure":
      return <Measure {...(props as StepCardProps<"measure">)} />;
    case "reset":
      return <Reset {...(props as StepCardProps<"reset">)} />;
    case "wait":
      return <Wait {...(props as StepCardProps<"wait">)} />;
    case "count":
      return <Count {...(props as StepCardProps<"count">)} />;
    case "replace":
      return <Replace {...(props as StepCardProps<"replace">)} />;
    case "repeat":
      return <Repeat {...(props as StepCardProps<"repeat">)} />;
  }
}

/** The thumb bar of the step: fixed above the edge of a phone, in place on wide screens. */
function Actions({ children }: { children: ReactNode }) {
  return (
    <div className="no-print fixed inset-x-0 bottom-0 z-20 flex gap-2 border-t-2 border-ink bg-ground p-3 pb-[max(0.75rem,env(safe-area-inset-bottom))] sm:static sm:border-0 sm:bg-transparent sm:p-0 [&>*]:flex-1 sm:[&>*]:flex-none sm:[&>*]:px-8">
      {children}
    </div>
  );
}

const at = (one: SheetStep) => ({ step: one.step, round: one.round });

/** Quantities of what a step uses, ready to be logged with it. */
function useMaterials({ procedure, one }: { procedure: Procedure; one: SheetStep }): { fields: ReactNode; events: () => RunEventBody[] } {
  const uses = (one.definition.uses ?? []).map((use) => ({ ...use, material: procedure.materials.find((material) => material.item === use.item)! }));
  const [amounts, setAmounts] = useState<Record<string, string>>({});
  const [lots, setLots] = useState<Record<string, string>>({});
  const fields =
    uses.length === 0 ? null : (
      <fieldset className="mb-5">
        <legend className="mb-1 font-semibold">Used here</legend>
        {uses.map(({ item, qty, material }) => (
          <div key={item} className="mb-2 flex flex-wrap items-center gap-2">
            <span className="min-w-40 flex-1">{material.name}</span>
            <span className="flex items-center gap-2">
              <input
                aria-label={`${material.name}, ${material.unit}`}
                className="field figure max-w-24"
                inputMode="decimal"
                value={amounts[item] ?? String(qty)}
                onChange={(event) => setAmounts({ ...amounts, [item]: event.target.value })}
              />
              <span className="w-8">{material.unit}</span>
            </span>
            <input
              aria-label={`${material.name}, lot`}
              placeholder="Lot"
              className="field figure max-w-32"
              value={lots[item] ?? ""}
              onChange={(event) => setLots({ ...lots, [item]: event.target.value })}
              maxLength={60}
            />
          </div>
        ))}
      </fieldset>
    );
  const events = (): RunEventBody[] =>
    uses.flatMap(({ item, qty, material }): RunEventBody[] => {
      const amount = amounts[item] === undefined ? qty : toNumber(amounts[item]);
      const lot = lots[item]?.trim();
      return amount !== null && amount > 0 ? [{ type: "consumable-used", ...at(one), item, qty: amount, unit: material.unit, ...(lot ? { lot } : {}) }] : [];
    });
  return { fields, events };
}

/** A figure as typed, decimal comma or point; null when it is none. */
export function toNumber(text: string): number | null {
  const trimmed = text.trim().replace(",", ".");
  if (trimmed === "" || !/^[-+]?\d*\.?\d+$/.test(trimmed)) return null;
  return Number(trimmed);
}

function Safety({ one, open, log }: StepCardProps<"safety">) {
  const [ticked, setTicked] = useState<Record<string, boolean>>({});
  const all = one.definition.checks.every((check) => ticked[check]);
  return (
    <>
      <ul className="mb-5 space-y-2">
        {one.definition.checks.map((check) => (
          <li key={check}>
            <label className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2 has-checked:border-ink">
              <input
                type="checkbox"
                className="size-6 shrink-0 accent-(--fill)"
                checked={one.settled || (ticked[check] ?? false)}
                disabled={!open}
                onChange={(event) => setTicked({ ...ticked, [check]: event.target.checked })}
              />
              <span>{check}</span>
            </label>
          </li>
        ))}
      </ul>
      {open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" aria-disabled={!all} onClick={() => all && log({ type: "safety-confirmed", ...at(one) })}>
            {all ? "All safe: go on" : "Tick each first"}
          </button>
        </Actions>
      )}
    </>
  );
}

function Simple(props: StepCardProps & { button: string }) {
  const materials = useMaterials(props);
  return (
    <>
      {props.open && materials.fields}
      {props.open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" onClick={() => props.log(...materials.events(), { type: "step-done", ...at(props.one) })}>
            {props.button}
          </button>
        </Actions>
      )}
    </>
  );
}

function Prove({ one, open, log }: StepCardProps<"prove">) {
  const [failing, setFailing] = useState(false);
  const [text, setText] = useState("");
  return (
    <>
      <p className="mb-5 border-l-4 border-tan-fill pl-3 text-lg">
        <strong>Expected:</strong> {one.definition.expect}
      </p>
      {failing && (
        <div className="mb-4">
          <label htmlFor="failing" className="mb-1 block font-semibold">
            What is not as expected?
          </label>
          <textarea id="failing" className="field" rows={3} value={text} onChange={(event) => setText(event.target.value)} maxLength={4000} />
          <p className="text-sm text-ink-soft">It is logged as a finding, and the proof stays open: put it right and prove it again.</p>
        </div>
      )}
      {open && (
        <Actions>
          {failing ? (
            <>
              <button
                type="button"
                className="btn btn-main btn-big"
                aria-disabled={text.trim() === ""}
                onClick={() => {
                  if (text.trim() === "") return;
                  log({ type: "finding", ...at(one), text: text.trim(), severity: "major" });
                  setText("");
                  setFailing(false);
                }}
              >
                Log the finding
              </button>
              <button type="button" className="btn btn-big" onClick={() => setFailing(false)}>
                Back
              </button>
            </>
          ) : (
            <>
              <button type="button" className="btn btn-main btn-big" onClick={() => log({ type: "step-done", ...at(one), answer: "ok" })}>
                As expected
              </button>
              <button type="button" className="btn btn-big" onClick={() => setFailing(true)}>
                Not as expected
              </button>
            </>
          )}
        </Actions>
      )}
    </>
  );
}

function Inspect({ one, open, log }: StepCardProps<"inspect">) {
  return (
    <>
      <p className="text-lg">
        <strong>As it should be:</strong> {one.definition.asItShouldBe}
      </p>
      <p className="mt-2 mb-5 border-l-4 border-line pl-3">
        <strong>If not:</strong> {one.definition.ifNot}
      </p>
      {open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" onClick={() => log({ type: "step-done", ...at(one), answer: "ok" })}>
            As it should be
          </button>
          <button type="button" className="btn btn-big" onClick={() => log({ type: "step-done", ...at(one), answer: "not-ok" })}>
            Not so
          </button>
        </Actions>
      )}
    </>
  );
}

function Measure(props: StepCardProps<"measure">) {
  const { one, open, log, ghosts } = props;
  const { definition, state } = one;
  const points = definition.points ?? [""];
  const [texts, setTexts] = useState<Record<number, string>>({});
  const [leaving, setLeaving] = useState("");
  const values = points.map((_, point) => (texts[point] === undefined ? null : toNumber(texts[point])));
  const latest = new Map((state?.readings ?? []).map((reading) => [reading.point, reading]));
  const complete = values.every((value, point) => value !== null || (latest.has(point) && (texts[point] ?? "") === ""));
  const any = values.some((value) => value !== null);
  const out = state?.answer === "low" || state?.answer === "high" ? state.answer : null;
  const limits = definition.limits;
  return (
    <>
      {points.map((point, i) => {
        const value = values[i] ?? latest.get(i)?.value ?? null;
        const typed = (texts[i] ?? "").trim() !== "" && values[i] === null;
        return (
          <div key={point} className="mb-4">
            <label htmlFor={`point-${i}`} className="mb-1 block font-semibold">
              {point === "" ? "Reading" : point.charAt(0).toUpperCase() + point.slice(1)}
            </label>
            <div className="flex items-center gap-2">
              <input
                id={`point-${i}`}
                className="field figure max-w-44 text-2xl"
                inputMode="decimal"
                autoComplete="off"
                disabled={!open}
                aria-invalid={typed}
                aria-describedby={`point-${i}-says`}
                value={texts[i] ?? (latest.has(i) && !open ? String(latest.get(i)!.value) : "")}
                onChange={(event) => setTexts({ ...texts, [i]: event.target.value })}
              />
              <span className="text-xl">{definition.unit}</span>
            </div>
            <p id={`point-${i}-says`} className="min-h-6 text-sm">
              {typed ? (
                <strong>! This is no figure: digits with a point or a comma.</strong>
              ) : definition.meter !== undefined && (ghosts[definition.meter]?.length ?? 0) > 0 ? (
                <>
                  Last value: <span className="figure">{ghosts[definition.meter]!.at(-1)}</span>
                </>
              ) : null}
            </p>
            {limits && (
              <LimitRuler
                limits={limits}
                target={definition.target}
                unit={definition.unit}
                value={value}
                ghosts={ghosts[definition.reading]?.slice(-3) ?? []}
              />
            )}
          </div>
        );
      })}
      {out && definition.advice?.[out] && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          <span aria-hidden="true">! </span>
          {definition.advice[out]}
        </p>
      )}
      {out && open && definition.retest && (
        <details className="mb-4">
          <summary className="inline-block min-h-11 underline decoration-dotted underline-offset-4">It cannot be brought within limits</summary>
          <label htmlFor="leaving" className="mt-1 block font-semibold">
            Why is it left so?
          </label>
          <div className="flex gap-2">
            <input id="leaving" className="field" value={leaving} onChange={(event) => setLeaving(event.target.value)} maxLength={1000} />
            <button
              type="button"
              className="btn"
              aria-disabled={leaving.trim() === ""}
              onClick={() => leaving.trim() !== "" && log({ type: "step-done", ...at(one), reason: leaving.trim() })}
            >
              Leave it
            </button>
          </div>
        </details>
      )}
      {open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            aria-disabled={!complete || !any}
            onClick={() => {
              if (!complete || !any) return;
              log(
                ...values.flatMap((value, point): RunEventBody[] =>
                  value === null ? [] : [{ type: "reading", ...at(one), value, unit: definition.unit, ...(definition.points ? { point } : {}) }],
                ),
              );
              setTexts({});
            }}
          >
            {out ? "Log the new reading" : points.length > 1 ? "Log the readings" : "Log the reading"}
          </button>
        </Actions>
      )}
    </>
  );
}

function Reset({ one, open, log, procedure }: StepCardProps<"reset">) {
  const [text, setText] = useState("");
  const value = toNumber(text);
  const meter = procedure.meters.find((candidate) => candidate.id === one.definition.meter);
  const wrong = one.state?.readings.at(-1)?.value;
  return (
    <>
      <label htmlFor="reset" className="mb-1 block font-semibold">
        {meter?.name ?? "Counter"} after the reset
      </label>
      <div className="mb-4 flex items-center gap-2">
        <input
          id="reset"
          className="field figure max-w-44 text-2xl"
          inputMode="decimal"
          autoComplete="off"
          disabled={!open}
          value={open ? text : String(wrong ?? "")}
          onChange={(event) => setText(event.target.value)}
        />
        <span className="text-xl">{meter?.unit}</span>
      </div>
      {open && wrong !== undefined && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          ! It shows {wrong}, not {one.definition.expect}: it is not reset. Left so, the next service comes at the wrong time.
        </p>
      )}
      {open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            aria-disabled={value === null}
            onClick={() => {
              if (value === null) return;
              log({ type: "reading", ...at(one), value, unit: meter?.unit ?? "count" });
              setText("");
            }}
          >
            Log what it shows
          </button>
        </Actions>
      )}
    </>
  );
}

function Wait(props: StepCardProps<"wait">) {
  const { one, open, log, elapsedMinutes } = props;
  const { definition, state } = one;
  const materials = useMaterials(props);
  const running = state?.status === "running";
  const verdict = state?.timer?.verdict;
  return (
    <>
      <p className="mb-4 text-lg">
        At least <strong className="figure">{definition.minMinutes} min</strong>
        {definition.maxMinutes !== undefined && (
          <>
            , at most <strong className="figure">{definition.maxMinutes} min</strong>
          </>
        )}
      </p>
      {running && elapsedMinutes !== null && (
        <p className="mb-4">
          <span className="figure text-6xl font-bold">{clock(elapsedMinutes)}</span>
        </p>
      )}
      {verdict === "short" && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          ! {definition.ifShort ?? "Cut short."} Undo starts the clock again where it was.
        </p>
      )}
      {verdict === "long" && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          ! {definition.ifLong ?? "Over the maximum."}
        </p>
      )}
      {open && !running && materials.fields}
      {(open || running) && (
        <Actions>
          {running ? (
            <button type="button" className="btn btn-main btn-big" onClick={() => log({ type: "timer-stopped", ...at(one) })}>
              {elapsedMinutes !== null && elapsedMinutes < definition.minMinutes ? "Stop early" : "Stop the clock"}
            </button>
          ) : (
            <button type="button" className="btn btn-main btn-big" onClick={() => log(...materials.events(), { type: "timer-started", ...at(one) })}>
              Start the clock
            </button>
          )}
        </Actions>
      )}
    </>
  );
}

function Count({ one, open, log }: StepCardProps<"count">) {
  const counted = one.state?.counted ?? 0;
  const { times, each } = one.definition;
  return (
    <>
      <p className="mb-2 text-xl">
        <span className="figure text-6xl font-bold">{counted}</span> of {times}
      </p>
      <p className="mb-5 flex gap-1" aria-hidden="true">
        {Array.from({ length: times }, (_, i) => (
          <span key={i} className={`h-4 flex-1 border-2 border-ink ${i < counted ? "bg-fill" : ""}`} />
        ))}
      </p>
      {open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" onClick={() => log({ type: "counted", ...at(one) })}>
            One {each} more
          </button>
        </Actions>
      )}
    </>
  );
}

function Replace({ procedure, one, open, log }: StepCardProps<"replace">) {
  const part = procedure.parts.find((candidate) => candidate.item === one.definition.item)!;
  const [lot, setLot] = useState("");
  const fitted = new Set(one.state?.slots ?? []);
  const missing = one.definition.slots.filter((slot) => !fitted.has(slot));
  return (
    <>
      {part.pair && <p className="mb-3 font-semibold">A pair: the step is done only when both are new.</p>}
      <ul className="mb-4 space-y-2">
        {one.definition.slots.map((slot) => (
          <li key={slot} className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2">
            <span className="flex-1">{part.slots.find((candidate) => candidate.id === slot)?.name}</span>
            {fitted.has(slot) ? (
              <strong>new</strong>
            ) : (
              open && (
                <button
                  type="button"
                  className="btn"
                  onClick={() => log({ type: "part-fitted", ...at(one), item: part.item, slot, qty: 1, ...(lot.trim() ? { lot: lot.trim() } : {}) })}
                >
                  New one fitted
                </button>
              )
            )}
          </li>
        ))}
      </ul>
      {open && (
        <div className="mb-4">
          <label htmlFor="lot" className="mb-1 block font-semibold">
            Lot or serial, if it has one
          </label>
          <input id="lot" className="field figure max-w-60" value={lot} onChange={(event) => setLot(event.target.value)} maxLength={60} />
        </div>
      )}
      {open && missing.length > 1 && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            onClick={() =>
              log(
                ...missing.map((slot): RunEventBody => ({
                  type: "part-fitted",
                  ...at(one),
                  item: part.item,
                  slot,
                  qty: 1,
                  ...(lot.trim() ? { lot: lot.trim() } : {}),
                })),
              )
            }
          >
            {missing.length === 2 ? "Both fitted" : `All ${missing.length} fitted`}
          </button>
        </Actions>
      )}
    </>
  );
}

function Repeat({ one, open, log }: StepCardProps<"repeat">) {
  const { question, clean, again, maxRounds } = one.definition;
  return (
    <>
      <p className="mb-4 text-xl font-semibold">{question}</p>
      {maxRounds !== undefined && one.round >= maxRounds && (
        <p className="mb-4 border-2 border-ink p-3 font-semibold">! Round {one.round}: still not clean after that many rounds is a finding. Log it and ask.</p>
      )}
      {open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" onClick={() => log({ type: "step-done", ...at(one), answer: "clean" })}>
            {clean}
          </button>
          <button type="button" className="btn btn-big" onClick={() => log({ type: "step-done", ...at(one), answer: "again" })}>
            {again}
          </button>
        </Actions>
      )}
    </>
  );
}
