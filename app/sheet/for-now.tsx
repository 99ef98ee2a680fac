import type { RunEventBody, RunState, SheetStep } from "@core";
import { useState } from "react";

import { useSaidDays } from "~/ui/day";
import { Modal, ModalClose } from "~/ui/modal";

/** Something that holds until the real thing is done: a speed compensated until it is calibrated, a hose tied up until it is renewed. */
export function ForNow({ one, log }: { one: SheetStep | null; log: (...bodies: RunEventBody[]) => void }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const [until, setUntil] = useState("");
  const ready = text.trim() !== "" && until.trim() !== "";
  return (
    <Modal trigger="For now" title="For now" open={open} onOpenChange={setOpen}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!ready) return;
          const on = one ? { step: one.step, round: one.round } : {};
          log({ type: "interim", text: text.trim(), until: until.trim(), ...on });
          setText("");
          setUntil("");
          setOpen(false);
        }}
      >
        <label htmlFor="for-now" className="block font-semibold">
          What did you do for the time being?
        </label>
        <p className="mb-1 text-sm text-ink-soft">It stays open on the record until it is taken back.</p>
        <textarea
          id="for-now"
          className="field"
          rows={2}
          maxLength={1000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <label htmlFor="for-now-until" className="mt-3 mb-1 block font-semibold">
          Until what is done?
        </label>
        <input
          id="for-now-until"
          className="field"
          maxLength={200}
          value={until}
          onChange={(event) => setUntil(event.target.value)}
        />
        <div className="mt-4 flex gap-2">
          <button type="submit" className="btn btn-main" aria-disabled={!ready}>
            Log it
          </button>
          <ModalClose>Back</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

/** What holds for now on a sheet, each with its way back. */
export function HoldsForNow({
  interim,
  log,
}: {
  interim: RunState["interim"];
  log: (...bodies: RunEventBody[]) => void;
}) {
  // Until what is done, in somebody's words: a day may be among them.
  const say = useSaidDays();
  const open = interim.filter((one) => one.ended === null);
  if (open.length === 0) return null;
  return (
    <section aria-label="For now" className="mt-4 border-t border-line pt-3">
      <h2 className="text-base font-bold">For now</h2>
      <ul>
        {open.map((one) => (
          <li key={one.eventId} className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 py-1">
            <span className="min-w-0 wrap-anywhere">
              {one.text} <span className="text-ink-soft">until {say(one.until)}</span>
            </span>
            <button type="button" className="btn" onClick={() => log({ type: "interim-ended", ref: one.eventId })}>
              Taken back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
