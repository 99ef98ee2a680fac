import { useState } from "react";

import { Modal, ModalClose } from "~/ui/modal";

/** A question whose answer goes on the record: nothing happens without it. */
export function ReasonDialog({
  trigger,
  title,
  label,
  hint,
  confirm,
  onConfirm,
}: {
  trigger: string;
  title: string;
  label: string;
  hint: string;
  confirm: string;
  onConfirm: (reason: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const ready = text.trim() !== "";
  return (
    <Modal trigger={trigger} title={title} open={open} onOpenChange={setOpen}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!ready) return;
          onConfirm(text.trim());
          setText("");
          setOpen(false);
        }}
      >
        <label htmlFor="reason" className="block font-semibold">
          {label}
        </label>
        <p className="mb-1 text-sm text-ink-soft">{hint}</p>
        <textarea
          id="reason"
          className="field"
          rows={3}
          maxLength={1000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <div className="mt-4 flex gap-2">
          <button type="submit" className="btn btn-main" aria-disabled={!ready}>
            {confirm}
          </button>
          <ModalClose>Back</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
