import type { Procedure, RunEvent, RunEventBody, SheetStep } from "@core";
import { must } from "@core";
import { useState } from "react";

import { Modal, ModalClose } from "~/ui/modal";

import { ForNow } from "./for-now";
import { lastUndoable, tapWords } from "./last-tap";
import { keepPhoto, NO_PICTURE, PhotoButton } from "./photo-button";
import { ReasonDialog } from "./reason-dialog";
import { UsedDialog } from "./used-dialog";

/** What can be done beside the step itself: take back the last tap, skip with a reason, note, finding. */
export function SheetTools({
  sheetId,
  procedure,
  colleagues,
  one,
  entries,
  me,
  open,
  log,
  using,
}: {
  sheetId: string;
  procedure: Procedure;
  colleagues: { id: string; name: string }[];
  one: SheetStep | null;
  entries: RunEvent[];
  me: string;
  open: boolean;
  log: (...bodies: RunEventBody[]) => void;
  /** Whether what was used is asked for, and how to ask. */
  using: [open: boolean, setOpen: (open: boolean) => void];
}) {
  const last = lastUndoable(entries, me);
  return (
    <div className="no-print mt-4 flex flex-wrap gap-2">
      <button
        type="button"
        className="btn"
        aria-disabled={last.length === 0}
        onClick={() =>
          last.length > 0 && log(...last.map((entry): RunEventBody => ({ type: "undone", ref: entry.id })))
        }
      >
        Undo{last.length > 0 ? `: ${tapWords(must(last[last.length - 1]))}` : ""}
      </button>
      {one && open && one.definition.kind !== "safety" && (
        <>
          <ReasonDialog
            trigger="Skip"
            title={`Skip "${one.definition.title}"?`}
            label="Why is it skipped?"
            hint="It stays on the record as skipped, with your reason."
            confirm="Skip it"
            onConfirm={(reason) => log({ type: "step-skipped", step: one.step, round: one.round, reason })}
          />
          <ReasonDialog
            trigger="Not applicable"
            title={`"${one.definition.title}" does not apply?`}
            label="Why does it not apply here?"
            hint="For example: this machine has no such part."
            confirm="Not applicable"
            onConfirm={(reason) => log({ type: "step-not-applicable", step: one.step, round: one.round, reason })}
          />
        </>
      )}
      <ReasonDialog
        trigger="Note"
        title="Note"
        label="What should be remembered?"
        hint="It goes on the record."
        confirm="Log the note"
        onConfirm={(text) => log({ type: "note", text, ...(one ? { step: one.step, round: one.round } : {}) })}
      />
      <FindingDialog sheetId={sheetId} one={one} log={log} />
      <UsedDialog procedure={procedure} one={one} log={log} open={using[0]} setOpen={using[1]} />
      <ForNow one={one} log={log} />
      <PhotoButton label="Picture" sheetId={sheetId} one={one} log={log} />
      {colleagues.length > 0 && <HandOverDialog colleagues={colleagues} log={log} />}
    </div>
  );
}

const SEVERITIES = [
  ["minor", "Minor: watch it"],
  ["major", "Major: needs work soon"],
  ["unsafe", "Unsafe: must not be used"],
] as const;

function FindingDialog({
  sheetId,
  one,
  log,
}: {
  sheetId: string;
  one: SheetStep | null;
  log: (...bodies: RunEventBody[]) => void;
}) {
  const [photo, setPhoto] = useState<File | null>(null);
  const [problem, setProblem] = useState("");
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const [severity, setSeverity] = useState<(typeof SEVERITIES)[number][0]>("minor");
  const ready = text.trim() !== "";
  return (
    <Modal trigger="Finding" title="Finding" open={open} onOpenChange={setOpen}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!ready) return;
          const on = one ? { step: one.step, round: one.round } : {};
          const finding = { type: "finding", text: text.trim(), severity, ...on } as const;
          const done = (...bodies: RunEventBody[]): void => {
            log(...bodies);
            setText("");
            setPhoto(null);
            setProblem("");
            setOpen(false);
          };
          if (!photo) {
            done(finding);
            return;
          }
          void keepPhoto(sheetId, photo).then(
            (id) => done(finding, { type: "photo", photo: id, ...on, caption: text.trim().slice(0, 400) }),
            () => setProblem(NO_PICTURE),
          );
        }}
      >
        <label htmlFor="finding" className="mb-1 block font-semibold">
          What did you find?
        </label>
        <textarea
          id="finding"
          className="field"
          rows={3}
          maxLength={4000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <fieldset className="mt-3">
          <legend className="font-semibold">How bad is it?</legend>
          {SEVERITIES.map(([value, name]) => (
            <label key={value} className="flex min-h-11 items-center gap-3">
              <input
                type="radio"
                name="severity"
                className="size-5 accent-(--fill)"
                checked={severity === value}
                onChange={() => setSeverity(value)}
              />
              {name}
            </label>
          ))}
        </fieldset>
        {severity === "unsafe" && (
          <p className="font-semibold">! It takes the machine out of service until a lead clears it.</p>
        )}
        <label htmlFor="finding-photo" className="mt-2 mb-1 block font-semibold">
          Picture, if it helps
        </label>
        <input
          id="finding-photo"
          type="file"
          accept="image/jpeg,image/png,image/webp"
          capture="environment"
          className="field py-2"
          onChange={(event) => setPhoto(event.target.files?.[0] ?? null)}
        />
        <p role={problem ? "alert" : undefined} className="font-semibold">
          {problem && `! ${problem}`}
        </p>
        <div className="mt-4 flex gap-2">
          <button type="submit" className="btn btn-main" aria-disabled={!ready}>
            Log the finding
          </button>
          <ModalClose>Back</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

/** A colleague goes on with the sheet, clocks and all. */
function HandOverDialog({
  colleagues,
  log,
}: {
  colleagues: { id: string; name: string }[];
  log: (...bodies: RunEventBody[]) => void;
}) {
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState(must(colleagues[0]).id);
  const [note, setNote] = useState("");
  return (
    <Modal trigger="Hand over" title="Hand the sheet over" open={open} onOpenChange={setOpen}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          log({ type: "handed-over", to, ...(note.trim() ? { note: note.trim() } : {}) });
          setOpen(false);
        }}
      >
        <label htmlFor="hand-to" className="mb-1 block font-semibold">
          Who goes on with it?
        </label>
        <select id="hand-to" className="field" value={to} onChange={(event) => setTo(event.target.value)}>
          {colleagues.map((person) => (
            <option key={person.id} value={person.id}>
              {person.name}
            </option>
          ))}
        </select>
        <label htmlFor="hand-note" className="mt-3 mb-1 block font-semibold">
          What must they know?
        </label>
        <textarea
          id="hand-note"
          className="field"
          rows={2}
          maxLength={1000}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <p className="mt-1 text-sm text-ink-soft">Everything logged stays yours; running clocks go on.</p>
        <div className="mt-4 flex gap-2">
          <button type="submit" className="btn btn-main">
            Hand over
          </button>
          <ModalClose>Back</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
