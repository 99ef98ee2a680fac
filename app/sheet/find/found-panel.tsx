import {
  daysBetween,
  type Procedure,
  type RunEventBody,
  type RunState,
  type SheetStep,
  UNKNOWN_CAUSE,
  type UsualLife,
} from "@core";
import { Link } from "react-router";

import { OnDay } from "~/ui/day";

import { useSheetFacts } from "../sheet-facts";
import { foundOn, symptomOf } from "./find-view";

/**
 * What goes with the cause that was found, beside the steps that remedy it: whether it was here before within its usual life, that
 * nobody may use the machine, what holds meanwhile, and what the operator should know. Nothing while the search goes on.
 */
export function FoundPanel({
  procedure,
  run,
  shown,
  log,
}: {
  procedure: Procedure;
  run: RunState;
  shown: SheetStep;
  log: (...bodies: RunEventBody[]) => void;
}) {
  const { learned, today, hands } = useSheetFacts();
  const found = foundOn(procedure, run);
  if (!found || shown.definition.kind === "find" || shown.definition.kind === "decide") return null;
  const { step, round } = found;
  const cause = step.causes.find((one) => one.id === found.cause);
  const symptom = symptomOf(step, run);
  const at = { step: step.id, round };
  return (
    <section aria-label="What was found" className="panel mt-4 space-y-3 p-4">
      <p className="text-lg">
        <strong>{cause ? `Found: ${cause.name}` : "Nothing found"}</strong>
        {symptom && <span className="block text-base">It is gone when: {symptom.proof}</span>}
      </p>
      {cause && (
        <Again
          before={learned?.before.find((one) => one.cause === cause.id)}
          life={learned?.lives[cause.id]}
          today={today}
        />
      )}
      {cause && <OutOfService cause={cause} at={at} run={run} log={log} />}
      {cause?.interim && <Meanwhile interim={cause.interim} at={at} run={run} log={log} />}
      {isHandedOver(found.cause, cause) && (
        <p>
          <Link to={`/sheet/${hands?.sheetId ?? ""}/packet`} className="btn">
            Service packet
          </Link>
        </p>
      )}
      {(cause?.handling ?? symptom?.tell) && (
        <p>
          <strong>Tell the operator:</strong> {cause?.handling?.lesson ?? symptom?.tell}
        </p>
      )}
    </section>
  );
}

const isHandedOver = (answer: string, cause: Cause | undefined): boolean =>
  answer === UNKNOWN_CAUSE || cause?.handOff !== undefined;

type Cause = NonNullable<ReturnType<typeof foundOn>>["step"]["causes"][number];
interface PartProps {
  at: { step: string; round: number };
  run: RunState;
  log: (...bodies: RunEventBody[]) => void;
}

/** The same cause before, said aloud when it came back sooner than it usually does. */
function Again({
  before,
  life,
  today,
}: {
  life: UsualLife | undefined;
  before: { on: string; sheetId: string } | undefined;
  today: string;
}) {
  if (!before) return null;
  const days = daysBetween(before.on, today);
  const isSoon = life !== undefined && days < life.days;
  return (
    <p className={isSoon ? "border-2 border-ink p-3 font-semibold" : ""}>
      {isSoon ? "! Again: the" : "The"} same cause was found here <OnDay on={before.on} />
      {days > 0 && `, ${days} ${days === 1 ? "day" : "days"} ago`}
      {isSoon && `; usually it holds about ${Math.round(life.days)} days`}
      {isSoon && (life.measured === null ? " (typical)" : ` (measured on ${life.measured})`)}.{" "}
      <Link to={`/book/records/${before.sheetId}`}>What was done then</Link>
    </p>
  );
}

function OutOfService({ cause: { name, outOfService }, at, run, log }: PartProps & { cause: Cause }) {
  if (outOfService === undefined) return null;
  const isStopped = run.findings.some((one) => one.step === at.step && one.severity === "unsafe");
  return (
    <div className="border-2 border-ink p-3">
      <p className="font-semibold">! Nobody may use it: {outOfService}</p>
      {isStopped ? (
        <p>It is out of service until somebody with the right to signs it back.</p>
      ) : (
        <button
          type="button"
          className="btn mt-2"
          onClick={() => log({ type: "finding", ...at, severity: "unsafe", text: `${name}. ${outOfService}` })}
        >
          Take it out of service
        </button>
      )}
    </div>
  );
}

function Meanwhile({ interim, at, run, log }: PartProps & { interim: NonNullable<Cause["interim"]> }) {
  const isHeld = run.interim.some((one) => one.step === at.step && one.ended === null);
  return (
    <div>
      <p>
        <strong>Meanwhile:</strong> {interim.text}, until {interim.until}.
      </p>
      {!isHeld && (
        <button type="button" className="btn mt-2" onClick={() => log({ type: "interim", ...at, ...interim })}>
          Log it: it holds for now
        </button>
      )}
    </div>
  );
}
