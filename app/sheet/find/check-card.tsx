import type { OpenCheck, RunEventBody, SheetStep, Step } from "@core";

import { Actions } from "~/sheet/steps/actions";

import { ReasonDialog } from "../reason-dialog";
import { CardTitle } from "./card-title";

/** One check, large: what to do, and a button for each thing that it can show. */
export function CheckCard({
  open: { check },
  step,
  one,
  likely,
  log,
}: {
  open: OpenCheck;
  step: Extract<Step, { kind: "find" }>;
  one: SheetStep;
  /** Causes of this symptom, the likeliest first. */
  likely: readonly { cause: string }[];
  log: (...bodies: RunEventBody[]) => void;
}) {
  const at = { step: one.step, round: one.round, check: check.id };
  const rank = (cause: string): number => {
    const place = likely.findIndex((other) => other.cause === cause);
    return place < 0 ? Infinity : place;
  };
  const finds = [...check.finds].sort((a, b) => rank(a.cause) - rank(b.cause));
  return (
    <section aria-label={check.title}>
      <CardTitle>{check.title}</CardTitle>
      <p className="mt-1 text-lg">{check.how}</p>
      <p className="mt-3 mb-2 font-semibold">What does it show?</p>
      <ul className="mb-3 grid gap-2 sm:grid-cols-2">
        {finds.map(({ cause, shows }) => (
          <li key={cause}>
            <button
              type="button"
              className="btn btn-big w-full justify-start text-left"
              onClick={() => log({ type: "checked", ...at, result: "found", cause })}
            >
              <span>
                {shows}
                <span className="block text-sm font-normal">
                  {step.causes.find(({ id }) => id === cause)?.name ?? cause}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <Actions>
        <button
          type="button"
          className="btn btn-main btn-big max-w-full"
          onClick={() => log({ type: "checked", ...at, result: "clear" })}
        >
          <span className="wrap-anywhere">As it should be: {check.clear}</span>
        </button>
      </Actions>
      <div className="mt-2">
        <ReasonDialog
          trigger="Cannot be done now"
          title={`“${check.title}” cannot be done?`}
          label="Why not?"
          hint="The search goes on without it; it stands in the service packet."
          confirm="Leave it out"
          onConfirm={(note) => log({ type: "checked", ...at, result: "left-out", note })}
        />
      </div>
    </section>
  );
}
