import { type Limits, limitWords } from "@core";

import { ReasonDialog } from "~/sheet/reason-dialog";

import { Actions } from "./actions";

/** What a reading beyond its limits leads to: adjusted and measured again, replaced, or left with a reason. */
export function OutOfLimits({
  out,
  limits,
  unit,
  onAgain,
  onReplaced,
  onLeft,
}: {
  out: "low" | "high";
  limits: Limits;
  unit: string;
  onAgain: () => void;
  onReplaced: (() => void) | undefined;
  onLeft: (reason: string) => void;
}) {
  return (
    <>
      <p className="mb-3 font-semibold">
        {out === "low" ? "Too low" : "Too high"}: it should be {limitWords(limits, unit)}. What is done about it?
      </p>
      <LeftSo trigger="Left so, because…" onLeft={onLeft} />
      <Actions>
        <button type="button" className="btn btn-main btn-big" onClick={onAgain}>
          Adjusted: measure again
        </button>
        {onReplaced && (
          <button type="button" className="btn btn-big" onClick={onReplaced}>
            Replaced
          </button>
        )}
      </Actions>
    </>
  );
}

/** A reading that stays out of its limits, with the reason. */
export function LeftSo({ trigger, onLeft }: { trigger: string; onLeft: (reason: string) => void }) {
  return (
    <div className="mb-4">
      <ReasonDialog
        trigger={trigger}
        title="Leave it out of its limits?"
        label="Why is it left so?"
        hint="It goes on the record, and stays open on the machine."
        confirm="Leave it"
        onConfirm={onLeft}
      />
    </div>
  );
}
