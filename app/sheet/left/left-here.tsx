import type { MachineFacts, Procedure, RunEventBody, RunState, SheetStep } from "@core";
import { settledBy, settlesItem } from "@core";
import { useMemo, useState } from "react";

import { LeftList } from "~/duties/left/left-list";
import type { OpenItemView } from "~/duties/left/open-items.server";
import { Disclosure } from "~/ui/disclosure";
import { Modal, ModalClose } from "~/ui/modal";

interface Shown {
  procedure: Procedure;
  /** The step that is shown: what is fitted is logged on it, unless the procedure has one for the place. */
  one: SheetStep | null;
  log: (...bodies: RunEventBody[]) => void;
}

/** What earlier sheets left open on the machine, each with the tap that settles it on this one. */
export function LeftHere({
  items,
  today,
  state,
  machine,
  large,
  ...shown
}: Shown & {
  items: readonly OpenItemView[];
  today: string;
  state: RunState;
  machine: MachineFacts;
  /** On a sheet that is about nothing else. */
  large: boolean;
}) {
  const { procedure } = shown;
  // Not with every second of a running clock.
  const here = useMemo(() => {
    if (items.length === 0) return new Set<string>();
    const effects = new Set(settledBy(procedure, state, machine));
    return new Set(items.filter((one) => settlesItem(effects, { ...one, id: one.name })).map((one) => one.id));
  }, [items, procedure, state, machine]);
  if (items.length === 0) return null;
  const settled = here.size;
  const list = (
    <LeftList
      items={items}
      today={today}
      action={(item) => <Settle key={item.id} item={item} settled={here.has(item.id)} {...shown} />}
    />
  );
  const title =
    settled === 0 ? `Left open here: ${items.length}` : `Left open here: ${settled} of ${items.length} settled`;
  return large ? (
    <section aria-labelledby="left-here" className="mt-4">
      <h2 id="left-here" className="mb-2 text-lg">
        {title}
      </h2>
      {list}
    </section>
  ) : (
    <Disclosure title={title} look="strong" className="no-print mt-3">
      {list}
    </Disclosure>
  );
}

function Settle({ item, settled, ...shown }: Shown & { item: OpenItemView; settled: boolean }) {
  if (settled) return <strong>logged on this sheet</strong>;
  if (item.severity === "unsafe")
    return <p className="max-w-52 text-sm">Settled with the signature that returns the machine to service.</p>;
  return item.kind === "fit-part" ? <Fit item={item} {...shown} /> : <PutRight item={item} {...shown} />;
}

function Fit({ item, procedure, one, log }: Shown & { item: OpenItemView }) {
  const [open, setOpen] = useState(false);
  const [lot, setLot] = useState("");
  const step = stepFor(item.slot, procedure, one);
  return (
    <Modal trigger={<Named words="Fitted" item={item} />} title={item.title} open={open} onOpenChange={setOpen}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const more = lot.trim() ? { lot: lot.trim() } : {};
          if (item.item === null) return;
          log(
            item.slot === null || step === null
              ? { type: "consumable-used", item: item.item, qty: 1, unit: "pc", ...more }
              : { type: "part-fitted", ...step, item: item.item, slot: item.slot, qty: 1, ...more },
          );
          setOpen(false);
        }}
      >
        <label htmlFor="left-lot" className="mb-1 block font-semibold">
          Lot or serial, if it has one
        </label>
        <input
          id="left-lot"
          className="field figure"
          maxLength={60}
          value={lot}
          onChange={(event) => setLot(event.target.value)}
        />
        <div className="mt-4 flex gap-2">
          <button type="submit" className="btn btn-main">
            It is fitted
          </button>
          <ModalClose>Back</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

/** The procedure's own step for the place; else the one that is being worked. */
function stepFor(
  slot: string | null,
  procedure: Procedure,
  one: SheetStep | null,
): { step: string; round: number } | null {
  const own = procedure.steps.find((step) => step.kind === "replace" && step.slots.includes(slot ?? ""));
  if (own) return { step: own.id, round: 1 };
  if (one) return { step: one.step, round: one.round };
  const last = procedure.steps.at(-1);
  return last ? { step: last.id, round: 1 } : null;
}

function PutRight({ item, one, log }: Shown & { item: OpenItemView }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const ready = text.trim() !== "";
  return (
    <Modal
      trigger={<Named words="Put right" item={item} />}
      title="What did you do?"
      open={open}
      onOpenChange={setOpen}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!ready) return;
          const on = one ? { step: one.step, round: one.round } : {};
          log({ type: "put-right", item: item.name, text: text.trim(), ...on });
          setOpen(false);
        }}
      >
        <label htmlFor="put-right" className="mb-1 block font-semibold wrap-anywhere">
          {item.title}
        </label>
        <textarea
          id="put-right"
          className="field"
          rows={3}
          maxLength={1000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <p className="mt-1 text-sm text-ink-soft">It is settled when this sheet is signed.</p>
        <div className="mt-4 flex gap-2">
          <button type="submit" className="btn btn-main" aria-disabled={!ready}>
            It is put right
          </button>
          <ModalClose>Back</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

function Named({ words, item }: { words: string; item: OpenItemView }) {
  return (
    <>
      {words}
      <span className="sr-only">: {item.title}</span>
    </>
  );
}
