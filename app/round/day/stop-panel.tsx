import { clockTime, type DayLeg, type DayProblem, type DayStop, must, type PlannedBreak } from "@core";
import { type ReactNode, useState } from "react";
import { Form, Link } from "react-router";

import { LeadMark } from "~/duties/lead-mark";
import { capital } from "~/kit/capital";
import { inHours } from "~/kit/days/day-time";
import { inPercent } from "~/kit/in-percent";
import type { LoadProgress } from "~/stores/load/hold-load.server";
import { Disclosure } from "~/ui/disclosure";
import { Modal, ModalClose } from "~/ui/modal";

import type { DayDuty } from "./day-problem.server";
import type { DaySiteFacts } from "./day-sites.server";
import { Ferry } from "./ferry";
import { Score, type ScoreDuty } from "./score";
import type { ScoreActual } from "./score-layout";
import type { StillOpen } from "./still-open.server";
import { leftBehind } from "./still-open-words";

/** One site of the round: when, its score, its duties, and what can be done there now. */
export function StopPanel(props: {
  stop: DayStop;
  number: number;
  /** The day, for how close each duty is to its due point. */
  on: string;
  site: DaySiteFacts | null;
  siteName: string;
  problem: DayProblem;
  duties: DayDuty[];
  /** Parts that the day may turn out to need, from the load list. */
  likely: LoadProgress["likely"];
  names: readonly ScoreDuty[];
  actual: readonly ScoreActual[];
  /** Taken during the visit. */
  breaks: readonly PlannedBreak[];
  now: number | null;
  technicians: number;
  risk: { chance: number } | null;
  here: boolean;
  /** What is still open at the site that one is at. */
  leaving: readonly StillOpen[];
  live: boolean;
  elsewhere: boolean;
  visited: boolean;
  mayChange: boolean;
  /** The way to it. */
  leg: DayLeg | null;
  /** On a phone its arrival or leaving is where the thumb is. */
  inBar: boolean;
}) {
  const { stop, number, site, siteName, duties, live, here } = props;
  const planned = props.problem.sites.find((one) => one.id === stop.site);
  // As the day's figures count it: from being let in to leaving.
  const onSite = stop.leave - stop.begin + (stop.site === props.problem.first ? 0 : (planned?.arriving ?? 0));
  const id = `stop-${stop.site}`;
  return (
    <section aria-labelledby={id} className="panel break-inside-avoid p-4">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
        <h2 id={id} className="text-lg wrap-anywhere">
          <span className="figure mr-2 inline-grid size-7 place-items-center rounded-full border-2 border-ink text-sm">
            {number}
          </span>
          {site ? <Link to={`/sites/${site.id}`}>{siteName}</Link> : siteName}
        </h2>
        <p>
          <span className="figure font-semibold">
            {clockTime(stop.arrive)}–{clockTime(stop.leave)}
          </span>
          <span className="text-ink-soft">
            {" "}
            · <span className="figure">{inHours(onSite)}</span> on site
          </span>
          {here && <strong> · you are here</strong>}
          {props.visited && <span className="text-ink-soft"> · done</span>}
        </p>
      </div>
      {props.leg && <Ferry leg={props.leg} />}
      <p className="mb-2 text-sm text-ink-soft wrap-anywhere">
        {site?.accessHours && <>Access {site.accessHours}. </>}
        {stop.late > 0 && <strong className="text-ink">! {inHours(stop.late)} too late for its hours. </strong>}
        {props.risk && props.risk.chance >= 0.01 && (
          <>Over after closing on {inPercent(props.risk.chance)} of such days. </>
        )}
      </p>
      <Score
        stop={stop}
        jobs={planned?.jobs ?? []}
        duties={props.names}
        actual={props.actual}
        breaks={props.breaks}
        now={props.now}
        technicians={props.technicians}
      />

      {duties.length > 0 && (
        <ul className="mt-3 divide-y divide-line border-t border-line">
          {duties.map((duty) => (
            <li key={duty.dutyId} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
              <LeadMark
                state={duty.state}
                anchorOn={duty.anchorOn}
                dueOn={duty.dueOn}
                today={props.on}
                hardStop={duty.hardStop}
                width={72}
              />
              <div className="min-w-0 flex-1 basis-48">
                <Link to={`/duties/${duty.dutyId}`} className="font-semibold wrap-anywhere">
                  {duty.title}
                </Link>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  {duty.machineName} <span className="figure">{duty.machineTag}</span> · {learnedWords(duty)}
                  {perhaps(duty.dutyId, props.likely)}
                  {duty.containedIn && <> · done with “{duty.containedIn}”</>}
                  {duty.pinned && <strong className="text-ink"> · pinned to this day</strong>}
                </p>
              </div>
              {duty.sheetId && (
                <Link to={`/sheet/${duty.sheetId}`} className="btn">
                  Go on with the sheet
                </Link>
              )}
              {props.mayChange && !duty.sheetId && (
                <Form method="post" className="no-print flex gap-1">
                  <input type="hidden" name="duty" value={duty.dutyId} />
                  <button
                    name="intent"
                    value={duty.pinned ? "unpin" : "pin"}
                    className="min-h-11 px-2 text-sm underline"
                    aria-label={
                      duty.pinned
                        ? `Unpin ${duty.title}, ${duty.machineName}`
                        : `Pin ${duty.title}, ${duty.machineName}, to this day`
                    }
                  >
                    {duty.pinned ? "Unpin" : "Pin"}
                  </button>
                  {!duty.pinned && (
                    <button
                      name="intent"
                      value="take-off"
                      className="min-h-11 px-2 text-sm underline"
                      aria-label={`Take ${duty.title}, ${duty.machineName}, off the day`}
                    >
                      Take off
                    </button>
                  )}
                </Form>
              )}
            </li>
          ))}
        </ul>
      )}

      <div className="no-print mt-3 flex flex-wrap gap-2">
        {live && !here && !props.elsewhere && !props.visited && (
          <Form method="post" className={props.inBar ? "max-sm:hidden" : undefined}>
            <input type="hidden" name="site" value={stop.site} />
            <button className="btn btn-main" name="intent" value="arrived">
              Arrived at {siteName}
            </button>
          </Form>
        )}
        {live && here && (
          <div className={props.inBar ? "max-sm:hidden" : undefined}>
            <Leave siteId={stop.site} siteName={siteName} open={props.leaving} />
          </div>
        )}
        {live && !here && !props.visited && (
          <Disclosure title="Leave it out today" look="button">
            <Form method="post" className="mt-2 flex flex-wrap items-end gap-2">
              <input type="hidden" name="site" value={stop.site} />
              <div>
                <label className="block text-sm font-semibold" htmlFor={`reason-${stop.site}`}>
                  Why
                </label>
                <input id={`reason-${stop.site}`} name="reason" required maxLength={300} className="field" />
              </div>
              <button className="btn" name="intent" value="skipped">
                Leave {siteName} out
              </button>
            </Form>
          </Disclosure>
        )}
      </div>
    </section>
  );
}

/** Leaves the site: at once when all is signed there, else after a look at what stays open. */
function Leave({ siteId, siteName, open }: { siteId: string; siteName: string; open: readonly StillOpen[] }) {
  const [asking, setAsking] = useState(false);
  const form = (sure: "yes" | "no", words: string, look: string): ReactNode => (
    <Form method="post" onSubmit={() => setAsking(false)}>
      <input type="hidden" name="site" value={siteId} />
      <input type="hidden" name="sure" value={sure} />
      <button className={look} name="intent" value="left">
        {words}
      </button>
    </Form>
  );
  if (open.length === 0) return form("no", `Leave ${siteName}`, "btn btn-main");
  return (
    <Modal open={asking} onOpenChange={setAsking} trigger={`Leave ${siteName}`} title={`Before you leave ${siteName}`}>
      <ul className="mb-4 divide-y divide-line border-y border-line">
        {open.map((one) => (
          <li key={one.sheetId} className="py-2 wrap-anywhere">
            <Link to={`/sheet/${one.sheetId}`} className="inline-block min-h-6 font-semibold">
              {one.machineName}: {one.title}
            </Link>
            <p>{capital(leftBehind(one))}.</p>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Link to={`/sheet/${must(open[0]).sheetId}`} className="btn btn-main">
          Go on with it
        </Link>
        {form("yes", "Leave all the same", "btn")}
        <ModalClose>Not now</ModalClose>
      </div>
    </Modal>
  );
}

/** Parts that a duty may turn out to need. */
function perhaps(dutyId: string, likely: LoadProgress["likely"]): string {
  const mine = likely.filter((one) => one.duties.includes(dutyId));
  return mine.length === 0 ? "" : ` · perhaps also: ${mine.map((one) => one.name).join(", ")}`;
}

/** The minutes planned with, and where they come from. */
export function learnedWords({ learned, typical }: Pick<DayDuty, "learned" | "typical">): string {
  if (learned.basis === "typical") return `${learned.minutes} min, typical`;
  const { n, low, high } = learned;
  const of = {
    "person-site": `your last ${n} here`,
    site: `the last ${n} here`,
    person: `your last ${n} elsewhere`,
    everybody: `the last ${n} anywhere`,
  }[learned.basis];
  const spread = low === high ? "" : `, half of them ${low}–${high}`;
  return `${learned.minutes} min: median of ${of}${spread}; typical ${typical}`;
}
