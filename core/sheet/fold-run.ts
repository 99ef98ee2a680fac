import { assertNotReached } from "../assert-not-reached";
import { instantMs } from "../days/parse-instant";
import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import { withBaselines } from "./baselines";
import { countRounds } from "./count-rounds";
import {
  coolEnough,
  judgedTogether,
  judgeReading,
  judgeWait,
  limitsOf,
  minutesBetween,
  summaryOf,
  timedBounds,
} from "./judge";
import { partsOff } from "./ledger";
import {
  applyCorrections,
  begin,
  correctable,
  type Corrected,
  decide,
  endInterim,
  foundOf,
  interimOf,
  mixedOf,
  moveParts,
  noneRenewed,
  outcomeOf,
  partOf,
  photoOf,
  provenBy,
  putRightOf,
  readingOf,
  searched,
  solutionOf,
  textOf,
  usedOf,
  withOne,
} from "./logged-facts";
import { correctedEntries, orderEvents, splitAtSignature, undoneIds } from "./order-events";
import type { Procedure, Step } from "./procedure";
import { isBeginning, pointsOf, ReadableEvents } from "./readable-events";
import type { Correction, EventOf, RunEvent, StepEvent } from "./run-event";
import {
  emptyState,
  emptyStep,
  type LoggedReading,
  type LoggedText,
  type RunState,
  stepKey,
  type StepState,
} from "./run-state";

/**
 * The state of a sheet from its log. Browser and server fold with this same function.
 *
 * The result is the same for any order and any repetition of the same events: they are put in the order (`at`, `id`)
 * and counted once. Undo and correction name the event they refer to; a correction of a correction is about what that one is
 * about. What this version cannot read is kept in `unknown` and changes nothing. Once signed, what the signature lists counts, and
 * what corrects it; the rest is in `afterClosing`.
 *
 * @throws CoreError `bad-instant` when an event's `at` is not an instant with offset
 */
export function foldRun(procedure: Procedure, events: readonly RunEvent[]): RunState {
  requireList(requireRecord(procedure, "procedure").steps, "procedure.steps");
  const { counted, late } = splitAtSignature(orderEvents(events));
  const undone = undoneIds(counted);
  const started = counted.find((event) => event.type === "started" && !undone.has(event.id));
  const begins = started?.type === "started" && isBeginning(started.begins) ? (started.begins ?? null) : null;
  const fold = new Fold(withBaselines(procedure, begins), counted, undone);
  for (const event of counted) if (!undone.has(event.id)) fold.apply(event);
  return fold.finish(late);
}

class Fold {
  readonly #steps: Map<string, Step>;
  readonly #readable: ReadableEvents;
  readonly #corrections = new Map<string, EventOf<"corrected">[]>();
  readonly #state: RunState;
  /** The last reading of each point of a step, in the order in which points were first read. */
  readonly #latest = new Map<StepState, Map<number, LoggedReading>>();

  constructor(procedure: Procedure, ordered: readonly RunEvent[], undone: Set<string>) {
    this.#steps = new Map(procedure.steps.map((step) => [step.id, step]));
    this.#readable = new ReadableEvents(procedure, this.#steps);
    const known = new Map(ordered.map((event) => [event.id, event]));
    const about = correctedEntries(ordered, undone);
    const unknown: RunEvent[] = [];
    for (const event of ordered) {
      if (event.type === "undone" && !known.has(event.ref)) unknown.push(event);
      if (event.type !== "corrected" || undone.has(event.id)) continue;
      const one = about.get(event.id);
      const entry = one && known.get(one.ref);
      if (!one || !entry || !this.#readable.corrects(event.set, entry)) unknown.push(event);
      else if (one.counts) this.#corrections.set(one.ref, withOne(this.#corrections.get(one.ref), event));
    }
    this.#state = {
      ...emptyState(),
      unknown,
      undone: ordered.filter((event) => undone.has(event.id)).map((event) => event.id),
    };
  }

  apply(event: RunEvent): void {
    const state = this.#state;
    state.runId ??= event.runId;
    if (!this.#readable.isReadable(event)) {
      state.unknown.push(event);
      return;
    }
    const closed = state.status === "signed" || state.status === "ended";
    const stillCounts =
      event.type === "corrected" || event.type === "note" || (event.type === "signed" && event.role === "customer");
    if (closed && !stillCounts) {
      state.afterClosing.push(event);
      return;
    }
    const corrections = this.#corrections.get(event.id);
    if (corrections) state.corrections[event.id] = applyCorrections(correctable(event), corrections).corrections;
    if (state.status === "empty") state.status = "working";
    state.applied += 1;
    this.#reduce(event);
  }

  finish(late: readonly RunEvent[]): RunState {
    countRounds(this.#steps, this.#state, (step) => this.#readable.mostRounds(step));
    Object.assign(this.#state, partsOff(this.#steps, this.#state));
    this.#state.afterClosing = [...this.#state.afterClosing, ...late];
    return this.#state;
  }

  #reduce(event: RunEvent): void {
    const state = this.#state;
    switch (event.type) {
      case "started":
        begin(state, event);
        return;
      case "note":
        state.notes.push(this.#text(event, null));
        return;
      case "finding":
        state.findings.push(this.#text(event, event.severity));
        return;
      case "as-found":
        state.asFound = foundOf(event, this.#corrected(event, { answer: event.found }));
        return;
      case "photo":
        state.photos.push(photoOf(event));
        return;
      case "interim":
        state.interim.push(interimOf(event));
        return;
      case "interim-ended":
        endInterim(state, event);
        return;
      case "put-right":
        state.putRight.push(putRightOf(event));
        return;
      case "consumable-used":
        state.consumables.push(usedOf(event, this.#corrected(event, { qty: event.qty, lot: event.lot })));
        return;
      case "handed-over":
        state.handedTo = event.to;
        state.lockChanges.push({ by: event.by, at: event.at, to: event.to });
        return;
      case "lock-lifted":
        state.lockChanges.push({ by: event.by, at: event.at, state: event.state, reason: event.reason });
        return;
      case "paused":
      case "resumed":
        state.status = event.type === "paused" ? "paused" : "working";
        return;
      case "signed":
        if (event.role === "technician") {
          state.technicianSignature = event;
          state.status = "signed";
        } else {
          state.customerSignature = event;
        }
        return;
      case "outcome":
        state.outcome = outcomeOf(event);
        state.status = "ended";
        return;
      case "undone":
      case "corrected":
        return; // taken into account where the event they name is applied
      default:
        this.#reduceStep(event);
    }
  }

  /** What is logged on a step. */
  #reduceStep(event: StepEvent): void {
    switch (event.type) {
      case "safety-confirmed":
        this.#confirmSafety(event);
        return;
      case "step-done":
        this.#answer(event);
        return;
      case "step-skipped":
        this.#settle(event, "skipped", null, event.reason);
        return;
      case "step-not-applicable":
        this.#settle(event, "not-applicable", null, event.reason);
        return;
      case "checked":
      case "gate-passed":
        this.#search(event);
        return;
      case "counted":
        this.#count(event);
        return;
      case "reading":
        this.#logReading(event);
        return;
      case "wear-decided":
        decide(this.#step(event), must(this.#steps.get(event.step)), event);
        return;
      case "timer-started":
        this.#startTimer(event);
        return;
      case "timer-stopped":
        this.#stopTimer(event);
        return;
      case "part-fitted":
      case "part-turned":
        this.#putIn(event);
        return;
      case "mixed":
        this.#mix(event);
        return;
      default:
        assertNotReached(event);
    }
  }

  #answer(event: EventOf<"step-done">): void {
    const answer = this.#corrected(event, { answer: event.answer }).value.answer ?? null;
    if (!this.#readable.mayAnswer(event.step, answer)) {
      this.#state.unknown.push(event);
      return;
    }
    const at = this.#step(event);
    const step = must(this.#steps.get(event.step));
    const open = moveParts(at, event) || !provenBy(at, step, event) || noneRenewed(at, step);
    if (!open) this.#settle(event, "done", answer, event.reason ?? null);
  }

  /** What a check found is the answer of the search. */
  #search(event: EventOf<"checked"> | EventOf<"gate-passed">): void {
    const found = event.type === "checked" ? this.#readable.causeOf(event) : null;
    const cause = found === null ? null : (this.#corrected(event, { answer: found }).value.answer ?? found);
    searched(this.#step(event), event, cause);
    if (cause !== null) this.#settle(event, "done", cause, null);
  }

  #count(event: EventOf<"counted">): void {
    const at = this.#step(event);
    const step = must(this.#steps.get(event.step));
    at.counted += 1;
    at.lastEventId = event.id;
    if (step.kind === "count" && at.counted >= step.times) this.#settle(event, "done", null, null);
  }

  #startTimer(event: EventOf<"timer-started">): void {
    const at = this.#step(event);
    // It stands since the first tap: a second one, by wet gloves or by somebody beside, makes it stand no shorter.
    if (at.timer?.stoppedAt === null) return;
    // A soak that was cut short and stands again is done when that one is: what was missed stays in the log.
    const anew = must(this.#steps.get(event.step)).kind === "wait" && at.timer?.verdict === "short";
    at.timer = { startedAt: event.at, startedBy: event.by, stoppedAt: null, minutes: null, verdict: null };
    if (at.status === "open" || (anew && at.status === "done")) at.status = "running";
    if (anew) at.answer = null;
    at.lastEventId = event.id;
  }

  #stopTimer(event: EventOf<"timer-stopped">): void {
    const at = this.#step(event);
    const step = must(this.#steps.get(event.step));
    const timed = timedBounds(step);
    if (at.timer === null || at.timer.stoppedAt !== null || timed === null) return;
    const minutes = Math.max(0, (instantMs(event.at, "at") - instantMs(at.timer.startedAt, "at")) / 60_000);
    at.timer = { ...at.timer, stoppedAt: event.at, minutes, verdict: judgeWait(minutes, timed) };
    if (step.kind === "wait") this.#settle(event, "done", at.timer.verdict, null);
    else at.status = "open";
    at.lastEventId = event.id;
  }

  /** A new piece in its slot, or the one that is there turned. */
  #putIn(event: EventOf<"part-fitted"> | EventOf<"part-turned">): void {
    const fitted = event.type === "part-fitted" ? event : null;
    const { value, corrections }: Corrected = fitted
      ? this.#corrected(event, { qty: fitted.qty, lot: fitted.lot, slot: fitted.slot })
      : { value: {}, corrections: [] };
    const slot = value.slot ?? event.slot;
    this.#state.parts.push(partOf(event, { value, corrections }));
    this.#fillSlot(event, slot);
  }

  /** What was mixed, and what it took of everything but water. */
  #mix(event: EventOf<"mixed">): void {
    this.#step(event).mixed = solutionOf(event);
    this.#state.consumables.push(...mixedOf(event));
    if (must(this.#steps.get(event.step)).kind === "mix") this.#settle(event, "done", null, null);
  }

  #step(event: { step: string; round: number }): StepState {
    return (this.#state.steps[stepKey(event.step, event.round)] ??= emptyStep(event));
  }

  #settle(
    event: RunEvent & { step: string; round: number },
    status: StepState["status"],
    answer: string | null,
    reason: string | null,
  ): void {
    const at = this.#step(event);
    at.status = status;
    at.answer = answer ?? at.answer;
    at.reason = reason;
    at.by = event.by;
    at.at = event.at;
    at.lastEventId = event.id;
    at.corrections = this.#state.corrections[event.id] ?? [];
  }

  /** A cool-down gate opens only when it is cool enough, or its time has passed; any other with the confirmation. */
  #confirmSafety(event: EventOf<"safety-confirmed">): void {
    const step = must(this.#steps.get(event.step));
    const at = this.#step(event);
    at.lastEventId = event.id;
    if (step.kind === "safety" && !coolEnough(step, at, instantMs(event.at, "at"))) return;
    if (at.timer !== null && at.timer.stoppedAt === null)
      at.timer = {
        ...at.timer,
        stoppedAt: event.at,
        minutes: minutesBetween(at.timer.startedAt, event.at),
        verdict: "in",
      };
    this.#settle(event, "done", null, null);
  }

  /** A step of several slots is settled when each has its piece: a pair counts only when both are new. */
  #fillSlot(event: RunEvent & { step: string; round: number }, slot: string): void {
    const at = this.#step(event);
    at.slots = [...new Set([...at.slots, slot])];
    at.lastEventId = event.id;
    const step = must(this.#steps.get(event.step));
    if ((step.kind === "replace" || step.kind === "turn") && step.slots.every((one) => at.slots.includes(one)))
      this.#settle(event, "done", null, null);
  }

  #logReading(event: EventOf<"reading">): void {
    const step = must(this.#steps.get(event.step));
    const { value, corrections } = this.#corrected(event, { value: event.value });
    const read = value.value ?? event.value;
    const at = this.#step(event);
    const point = event.point ?? 0;
    const latest = this.#latest.get(at) ?? new Map<number, LoggedReading>();
    const reading = readingOf(event, step, { value: read, corrections, again: latest.has(point) });
    at.readings.push(reading);
    at.lastEventId = event.id;
    if (reading.impossible) return;
    this.#latest.set(at, latest.set(point, reading));
    if (at.status === "skipped" || at.status === "not-applicable") at.status = "open";
    if (step.kind === "safety") return;

    this.#judgeAll(event, step, at, [...latest.values()]);
  }

  /** Once every point has its reading: the verdict on all of them, and whether the step is settled by it. */
  #judgeAll(event: EventOf<"reading">, step: Step, at: StepState, latest: readonly LoggedReading[]): void {
    if (latest.length < pointsOf(step)) return;
    at.answer = judgedTogether(step)
      ? judgeReading(
          summaryOf(
            step.judge,
            latest.map((reading) => reading.value),
          ),
          limitsOf(step),
        )
      : (latest.find((reading) => reading.verdict !== "in")?.verdict ?? "in");
    const mustPass = (step.kind === "measure" && step.retest === true) || step.kind === "reset";
    if (!mustPass || at.answer === "in") this.#settle(event, "done", at.answer, null);
    else at.status = "open";
  }

  #text(event: EventOf<"note"> | EventOf<"finding">, severity: LoggedText["severity"]): LoggedText {
    return textOf(event, severity, this.#corrected(event, { text: event.text }));
  }

  #corrected(event: RunEvent, original: Correction): Corrected {
    return applyCorrections(original, this.#corrections.get(event.id) ?? []);
  }
}
