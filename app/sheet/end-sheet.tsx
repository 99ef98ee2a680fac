import type { Outcome, Procedure, RunEventBody } from "@core";
import { useState } from "react";

import { OUTCOMES } from "~/kit/outcomes";
import { Modal, ModalClose } from "~/ui/modal";

/** Ends the sheet without the work: the duty stays due and says why, with the part that was missing and the day that was agreed. */
export function EndSheet({
  procedure,
  today,
  log,
}: {
  procedure: Procedure;
  today: string;
  log: (...bodies: RunEventBody[]) => void;
}) {
  const [open, setOpen] = useState(false);
  const [outcome, setOutcome] = useState<Outcome>("no-access");
  const [reason, setReason] = useState("");
  const [part, setPart] = useState("");
  const [again, setAgain] = useState("");
  const places = placesOf(procedure);
  const missing = outcome === "part-missing" ? places.find((one) => one.value === part) : undefined;
  const ready = reason.trim() !== "" && (outcome !== "part-missing" || places.length === 0 || missing !== undefined);
  return (
    <Modal trigger="End without the work" title="End without the work" open={open} onOpenChange={setOpen}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!ready) return;
          log({
            type: "outcome",
            outcome,
            reason: reason.trim(),
            ...(missing?.part ? { part: missing.part } : {}),
            ...(again >= today ? { again } : {}),
          });
          setOpen(false);
        }}
      >
        <fieldset>
          <legend className="font-semibold">What happened?</legend>
          {OUTCOMES.map(([value, name]) => (
            <label key={value} className="flex min-h-12 items-center gap-3">
              <input
                type="radio"
                name="outcome"
                className="size-5 accent-(--fill)"
                checked={outcome === value}
                onChange={() => setOutcome(value)}
              />
              {name}
            </label>
          ))}
        </fieldset>
        {outcome === "part-missing" && places.length > 0 && (
          <>
            <label htmlFor="missing-part" className="mt-2 mb-1 block font-semibold">
              Which part?
            </label>
            <select id="missing-part" className="field" value={part} onChange={(event) => setPart(event.target.value)}>
              <option value="">Choose one</option>
              {places.map((one) => (
                <option key={one.value} value={one.value}>
                  {one.name}
                </option>
              ))}
            </select>
            <p className="mt-1 text-sm text-ink-soft">
              It is held for this machine if one is free, ordered if not, and on the load list of the day that comes
              here.
            </p>
          </>
        )}
        <label htmlFor="outcome-reason" className="mt-2 mb-1 block font-semibold">
          Why, in a few words
        </label>
        <textarea
          id="outcome-reason"
          className="field"
          rows={2}
          maxLength={1000}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <label htmlFor="outcome-again" className="mt-2 mb-1 block font-semibold">
          Another attempt, if a day was agreed
        </label>
        <input
          id="outcome-again"
          type="date"
          className="field max-w-48"
          min={today}
          value={again}
          onChange={(event) => setAgain(event.target.value)}
        />
        <p className="mt-1 text-sm text-ink-soft">
          The duty stays due and shows this to whoever comes next. It leaves today&apos;s round.
        </p>
        <div className="mt-4 flex gap-2">
          <button type="submit" className="btn btn-main" aria-disabled={!ready}>
            End the sheet
          </button>
          <ModalClose>Back</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

const OTHER = "other";

/** What the procedure may fit, place by place, and something else. */
function placesOf(
  procedure: Procedure,
): { value: string; name: string; part: { item: string; slot?: string } | null }[] {
  const own = procedure.parts.flatMap((part) =>
    part.slots.map((slot) => ({
      value: `${part.item} ${slot.id}`,
      name: part.slots.length > 1 ? `${part.name}, ${slot.name}` : part.name,
      part: { item: part.item, slot: slot.id },
    })),
  );
  return own.length === 0 ? [] : [...own, { value: OTHER, name: "Something else: say so below", part: null }];
}
