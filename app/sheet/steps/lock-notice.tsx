import type { Lock } from "@core";

import { ReasonDialog } from "~/sheet/reason-dialog";
import { useSheetFacts } from "~/sheet/sheet-facts";

import type { StepCardProps } from "./step-props";

/** A colleague's lock: they take it off, or hand the sheet over with it; a lead may lift it when they are not there. */
export function LockNotice({ lock, log }: { lock: Lock; log: StepCardProps["log"] }) {
  const { hands } = useSheetFacts();
  if (!hands || lock.by === null) return null;
  const name = hands.nameOf(lock.by);
  return (
    <div role="alert" className="mb-5 border-2 border-ink p-3">
      <p className="mb-2 font-semibold">
        This lock is {name}’s. {name} takes it off, or hands the sheet over with it. When they cannot be reached, a lead
        lifts it with a reason.
      </p>
      {hands.isLead && (
        <ReasonDialog
          trigger="Lift the lock"
          title={`Lift the lock of ${name}?`}
          label="Why, and how do you know that nobody is at the machine?"
          hint="It stays on the record with your name. Ask your own lock-out rules first."
          confirm="Lift it"
          onConfirm={(reason) => log({ type: "lock-lifted", state: lock.state, reason })}
        />
      )}
    </div>
  );
}
