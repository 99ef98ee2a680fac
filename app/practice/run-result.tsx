import { GOOD_TIMES } from "@core";

import { inHours } from "~/kit/days/day-time";
import { Disclosure } from "~/ui/disclosure";
import { Section } from "~/ui/section";
import { Why } from "~/ui/why";

import type { FaultView } from "./fault-view";
import { Happened } from "./happened";
import type { RunEnd, RunView } from "./practice.server";

/** Where the focus goes when a practice is over. */
export const VERDICT = "verdict";

/** What a practice came to: minutes against the best way, what was unsafe, what was forgotten, and what it was. */
export function RunResult({
  run,
  end: { result, truth },
  fault,
  isOwn,
}: {
  run: RunView["run"];
  end: RunEnd;
  fault: FaultView | null;
  isOwn: boolean;
}) {
  const { minutes, bestMinutes, unsafe, forgotten, isSolved, isPassed } = result;
  const isSlow = minutes > GOOD_TIMES * bestMinutes;
  return (
    <div className="space-y-6">
      <div className="panel p-4">
        <p id={VERDICT} tabIndex={-1} className="text-2xl outline-none">
          <strong>{isPassed ? "Passed" : "Not passed"}</strong>
        </p>
        <p className="mt-1 text-lg">
          {verdict(run.kind, isSolved)} {inHours(minutes)};{" "}
          {run.kind === "fault" ? "the guide alone" : "the best order"} takes {inHours(bestMinutes)} on this machine
          {isSlow && ", and twice that is still good work"}.
        </p>
        {truth && (
          <p className="mt-1">
            It was: <strong>{truth.cause}</strong>
          </p>
        )}
        {!run.isNew && (
          <p className="mt-1 text-sm text-ink-soft">The same machine again: it counts for no authorisation.</p>
        )}
        <Why
          because={[
            "Passed: solved, nothing unsafe, nothing forgotten, in at most twice the minutes of the best way.",
            "Minutes are the machine's own time: a step's typical minutes, gates, and waits as long as they were.",
            run.kind === "fault"
              ? "The best way: always the check that is expected to find it soonest, by the guide's chances; on this machine."
              : "The best way: every step's typical minutes, with waits used for other work as well as they can be.",
          ]}
        />
      </div>
      <List id="unsafe" title="Unsafe" lines={unsafe} none="Nothing unsafe." />
      <List id="forgotten" title="Forgotten or missed" lines={forgotten} none="Nothing forgotten." />
      {fault && (
        <Section id="happened" title={isOwn ? "What you did" : "What was done"}>
          <Happened lines={fault.lines} />
        </Section>
      )}
      {truth && (
        <Disclosure title="By the guide alone">
          <Happened lines={truth.lines} label="By the guide alone" />
        </Disclosure>
      )}
    </div>
  );
}

function verdict(kind: "fault" | "sheet", isSolved: boolean): string {
  if (kind === "sheet") return isSolved ? "Every step is settled, after" : "Not every step is settled; given up after";
  return isSolved ? "Found and dealt with, after" : "Not dealt with; left after";
}

function List({ id, title, lines, none }: { id: string; title: string; lines: readonly string[]; none: string }) {
  return (
    <Section id={id} title={title}>
      {lines.length === 0 ? (
        <p>{none}</p>
      ) : (
        <ul className="panel divide-y divide-line">
          {lines.map((text, i) => (
            <li key={i} className="p-3 wrap-anywhere">
              {text}
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}
