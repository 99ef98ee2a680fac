import type { AsFound } from "../wear/tune-interval";
import type { Begins, TakenOff } from "./procedure";

/**
 * The run log: what happened on one sheet, as facts that are only ever added. Ids are UUIDv7 made by the device that
 * logged the fact, so that a batch can be sent twice and devices can work without a connection.
 */
interface EventBase {
  /** UUIDv7. */
  id: string;
  runId: string;
  /** ISO 8601 instant with offset, by the server's clock as far as the device knew it. */
  at: string;
  /** The device's clock was set or wrong: `at` is the best that is known, `deviceAt` what the device said first. */
  uncertain?: boolean | undefined;
  deviceAt?: string | undefined;
  /** Id of the person. */
  by: string;
  device: string;
}

/** `replaced`: the meter is a new one; the old one's last value when it could still be read. */
export interface AskedValue {
  answer: "right" | "replaced";
  oldValue?: number;
}

interface OnStep {
  step: string;
  /** Round of the repeat block, from 1. */
  round: number;
}

export type RunEventBody =
  | { type: "started"; planId: string; procedureId: string; procedureVersion: number; begins?: Begins }
  | (OnStep & { type: "safety-confirmed" })
  /**
   * `off` is what came off where it differs from the procedure: how many, how they were in, where they are. `back` is what went
   * back on so far, when some of it did not: the step stays open.
   */
  | (OnStep & {
      type: "step-done";
      answer?: string;
      reason?: string;
      off?: TakenOff[];
      back?: { item: string; count: number }[];
      /** Of a proof of several functions: those that were tried, each as it was. */
      results?: { function: string; ok: boolean; note?: string }[];
    })
  | (OnStep & { type: "step-not-applicable"; reason: string })
  | (OnStep & { type: "step-skipped"; reason: string })
  /**
   * A check of a search: it showed one of its causes, nothing, or it could not be done. Of those that it can show, `cause` is the
   * one that it was.
   */
  | (OnStep & {
      type: "checked";
      check: string;
      result: "found" | "clear" | "left-out";
      cause?: string;
      note?: string;
    })
  /** Within a search: the machine was brought into a state, or out of it. */
  | (OnStep & { type: "gate-passed"; state: string; way: "in" | "out" })
  /** One of several repetitions of a counting step. */
  | (OnStep & { type: "counted" })
  | (OnStep & {
      type: "reading";
      value: number;
      unit: string;
      /** Index into the step's points or trials. */
      point?: number;
      /** Id of the measuring instrument used. */
      instrument?: string;
      /** Day its calibration was due, as known when it was used: an expired one stays readable as such. */
      calibrationDue?: string;
      /** Marked by the person; when absent it follows from the step and from what was read before. */
      stage?: "as-found" | "as-left";
      /** What the person said when asked about a value that is not usual. */
      asked?: AskedValue;
    })
  /** Whether a part that is measured is renewed though it is within its limit; what was told then, and why it was done otherwise. */
  | (OnStep & { type: "wear-decided"; choice: "now" | "next"; chance?: number; reason?: string })
  /** How the machine was found, as somebody says; the last word counts. */
  | { type: "as-found"; found: AsFound; step?: string | undefined; round?: number }
  | (OnStep & { type: "timer-started" })
  | (OnStep & { type: "timer-stopped" })
  | (OnStep & { type: "part-fitted"; item: string; slot: string; qty: number; lot?: string; expires?: string })
  /** The next edge or side of the piece that is in the slot. */
  | (OnStep & { type: "part-turned"; item: string; slot: string; usesLeft: number })
  /** A solution made up, with the stock's actual strength where it was diluted. Volumes in mL. */
  | (OnStep & {
      type: "mixed";
      amounts: { item: string; ml: number; lot?: string }[];
      finalMl: number;
      stockPercent?: number;
      batch?: string;
    })
  | {
      type: "consumable-used";
      step?: string | undefined;
      round?: number;
      item: string;
      qty: number;
      unit: string;
      lot?: string;
      expires?: string;
    }
  | { type: "note"; text: string; step?: string | undefined; round?: number }
  | { type: "finding"; text: string; severity: "minor" | "major" | "unsafe"; step?: string | undefined; round?: number }
  /** Something that holds until the real thing is done: open until it is taken back. */
  | { type: "interim"; text: string; until: string; step?: string | undefined; round?: number }
  | { type: "interim-ended"; ref: string; note?: string }
  /** Something that an earlier sheet left open is settled with this one: `item` names it. */
  | { type: "put-right"; item: string; text?: string; step?: string | undefined; round?: number }
  /** The picture itself is stored apart; `finding` names the finding it belongs to. */
  | { type: "photo"; photo: string; step?: string | undefined; round?: number; finding?: string; caption?: string }
  /** Another person goes on with the sheet. */
  | { type: "handed-over"; to: string; note?: string }
  /** A lead takes a lock off the hands of who put it on, who is not there to do it. */
  | { type: "lock-lifted"; state: string; reason: string }
  | { type: "paused"; reason?: string }
  | { type: "resumed" }
  /** The event `ref` never happened. */
  | { type: "undone"; ref: string }
  /** Fields of the event `ref` read otherwise from now on; the old values stay readable. */
  | { type: "corrected"; ref: string; set: Correction; why: string }
  /** `entries` names what the signature saw, the customer's included: that is what it signs, whatever their times say. */
  | {
      type: "signed";
      role: "technician";
      name: string;
      method: "password";
      eventCount: number;
      entries?: string[];
      missingReason?: string;
    }
  /** `sheets` names all that one signature was given for, this one included, when it was given for a visit. */
  | { type: "signed"; role: "customer"; method: "drawn"; name: string; drawing: string; sheets?: string[] }
  | { type: "signed"; role: "customer"; method: "typed"; name: string; sheets?: string[] }
  | { type: "signed"; role: "customer"; method: "not-present"; reason: string; sheets?: string[] }
  /**
   * The visit ends without the work: the duty stays due. `part` is what is missing, `again` the day that was agreed for another
   * attempt.
   */
  | { type: "outcome"; outcome: Outcome; reason: string; part?: MissingPart; again?: string };

export interface MissingPart {
  item: string;
  slot?: string;
}

export type Outcome = "no-access" | "refused" | "part-missing";

/** Fields a correction may set. */
export interface Correction {
  value?: number | undefined;
  qty?: number | undefined;
  text?: string | undefined;
  answer?: string | undefined;
  lot?: string | undefined;
  slot?: string | undefined;
}

export type RunEvent = EventBase & RunEventBody;
export type RunEventType = RunEvent["type"];
export type EventOf<Type extends RunEventType> = Extract<RunEvent, { type: Type }>;

/** What is logged on a step, and changes the step. */
export type StepEvent = EventOf<
  | "safety-confirmed"
  | "step-done"
  | "step-skipped"
  | "step-not-applicable"
  | "checked"
  | "gate-passed"
  | "counted"
  | "reading"
  | "wear-decided"
  | "timer-started"
  | "timer-stopped"
  | "part-fitted"
  | "part-turned"
  | "mixed"
>;
