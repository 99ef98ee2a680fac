import type { RunEvent, RunEventBody } from "../run-event";
import { earlier } from "./shipped";

/** Writes a log: each call is one event, a minute after the last unless told otherwise. */
export class TestLog {
  readonly events: RunEvent[] = [];
  #minute = 0;

  add(body: RunEventBody, options: { after?: number; by?: string; device?: string } = {}): RunEvent {
    this.#minute += options.after ?? 1;
    const n = this.events.length + 1;
    const event = {
      id: `0190a000-0000-7000-8000-${String(n).padStart(12, "0")}`,
      runId: "0190a000-0000-7000-8000-000000000000",
      at: new Date(Date.UTC(2026, 10, 24, 8, 0) + this.#minute * 60_000).toISOString(),
      by: options.by ?? "ada",
      device: options.device ?? "phone",
      ...body,
    };
    this.events.push(event);
    return event;
  }

  done(step: string, answer?: string, round = 1): RunEvent {
    return this.add({ type: "step-done", step, round, ...(answer === undefined ? {} : { answer }) });
  }
  safe(step = "make-safe"): RunEvent {
    return this.add({ type: "safety-confirmed", step, round: 1 });
  }
  read(step: string, value: number, unit: string, point?: number): RunEvent {
    return this.add({ type: "reading", step, round: 1, value, unit, ...(point === undefined ? {} : { point }) });
  }
  soak(step: string, minutes: number, round = 1): void {
    this.add({ type: "timer-started", step, round });
    this.add({ type: "timer-stopped", step, round }, { after: minutes });
  }
  count(step: string, times: number): void {
    for (let i = 0; i < times; i++) this.add({ type: "counted", step, round: 1 });
  }
  fit(step: string, item: string, slot: string): RunEvent {
    return this.add({ type: "part-fitted", step, round: 1, item, slot, qty: 1 });
  }
  sign(): RunEvent {
    return this.add({
      type: "signed",
      role: "technician",
      name: "Ada",
      method: "password",
      eventCount: this.events.length,
    });
  }
}

/** The ice maker up to the question whether the reservoir is clean. */
export function cleanedOnce(gap: number): TestLog {
  const iceMaker = earlier("flake-ice-maker-clean-sanitise");
  const log = new TestLog();
  log.add({ type: "started", planId: "plan", procedureId: iceMaker.id, procedureVersion: 1 });
  log.safe();
  log.done("look-over", "ok");
  log.read("bearing-gap", gap, "in");
  if (gap >= 0.02) {
    log.fit("bearings", "auger-bearing", "bearing-top");
    log.fit("bearings", "auger-bearing", "bearing-bottom");
  }
  log.done("fill-cleaner");
  log.soak("soak-cleaner", 17);
  log.done("wipe-outside");
  log.done("freeze-out-cleaner");
  return log;
}
