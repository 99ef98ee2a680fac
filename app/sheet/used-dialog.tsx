import { amountFault, inWords, type Procedure, readNumber, type RunEventBody, type SheetStep } from "@core";
import { useState } from "react";

import { ownFormat } from "~/kit/forms/number-format";
import { useFoundItems } from "~/stores/items/use-found-items";
import { Modal, ModalClose } from "~/ui/modal";

import { useSheetFacts } from "./sheet-facts";
import { useFault } from "./steps/use-fault";

/** So many are shown to choose from: more, and another letter tells them apart sooner. */
const MOST_SHOWN = 6;

interface Choice {
  id: string;
  name: string;
  unit: string;
}

/** A part or material that was used beyond what the steps ask for: scanned or found by name, how much, from which lot, into which place. */
export function UsedDialog({
  procedure,
  one,
  log,
  open,
  setOpen,
}: {
  procedure: Procedure;
  one: SheetStep | null;
  log: (...bodies: RunEventBody[]) => void;
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  return (
    <Modal trigger="Used" title="What was used" open={open} onOpenChange={setOpen}>
      <UsedForm
        procedure={procedure}
        one={one}
        onUsed={(body) => {
          log(body);
          setOpen(false);
        }}
      />
    </Modal>
  );
}

function UsedForm({
  procedure,
  one,
  onUsed,
}: {
  procedure: Procedure;
  one: SheetStep | null;
  onUsed: (body: RunEventBody) => void;
}) {
  const { machine } = useSheetFacts();
  const [words, setWords] = useState("");
  const [chosen, setChosen] = useState<Choice | null>(null);
  const [qty, setQty] = useState("1");
  const [lot, setLot] = useState("");
  const [slot, setSlot] = useState("");
  const found = useFoundItems(words);
  const choices = choicesFor(words, procedure, found.items);
  const typed = readNumber(qty, ownFormat());
  const amount = typed.kind === "number" ? typed.value : null;
  const slots = chosen ? slotsFor(chosen.id, procedure, Object.entries(machine.slots ?? {})) : [];
  const usual = procedure.steps.flatMap((step) => step.uses ?? []).find((use) => use.item === chosen?.id)?.qty ?? null;
  const { refused, asks, says } = useFault(
    amount,
    amount === null ? null : amountFault(amount, { usual, unit: chosen?.unit ?? "" }),
  );
  const ready = chosen !== null && amount !== null && amount > 0 && !refused && !asks;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        // A scanner types the code and a return.
        if (!chosen) {
          const scanned = found.items.find((item) => item.scanCode === words.trim());
          const only = scanned ?? (choices.length === 1 ? choices[0] : undefined);
          if (only) setChosen(only);
          return;
        }
        if (!ready) return;
        const more = lot.trim() ? { lot: lot.trim() } : {};
        const on = one ? { step: one.step, round: one.round } : {};
        onUsed(
          slot !== "" && one
            ? { type: "part-fitted", step: one.step, round: one.round, item: chosen.id, slot, qty: amount, ...more }
            : { type: "consumable-used", ...on, item: chosen.id, qty: amount, unit: chosen.unit, ...more },
        );
      }}
    >
      {chosen === null ? (
        <ItemChoice words={words} onWords={setWords} choices={choices} busy={found.busy} onChoose={setChosen} />
      ) : (
        <>
          <p className="mb-3 flex flex-wrap items-center justify-between gap-2 font-semibold">
            <span className="wrap-anywhere">{chosen.name}</span>
            <button type="button" className="btn" onClick={() => setChosen(null)}>
              Another
            </button>
          </p>
          <div className="flex flex-wrap gap-3">
            <div>
              <label htmlFor="used-qty" className="mb-1 block font-semibold">
                How much, {chosen.unit}
              </label>
              <input
                id="used-qty"
                className="field figure max-w-28"
                inputMode="decimal"
                value={qty}
                aria-describedby="used-qty-fault"
                onChange={(event) => setQty(event.target.value)}
              />
              <p id="used-qty-fault" role="status" className="min-h-6 text-sm font-semibold">
                {typed.kind === "ambiguous" && "! Type it without the separator."}
                {typed.kind === "none" && "! This is no figure."}
              </p>
            </div>
            <div>
              <label htmlFor="used-lot" className="mb-1 block font-semibold">
                Lot or serial
              </label>
              <input
                id="used-lot"
                className="field figure max-w-44"
                maxLength={60}
                value={lot}
                onChange={(event) => setLot(event.target.value)}
              />
            </div>
          </div>
          {says}
          {slots.length > 0 && (
            <>
              <label htmlFor="used-slot" className="mt-3 mb-1 block font-semibold">
                Where it went in
              </label>
              <select id="used-slot" className="field" value={slot} onChange={(event) => setSlot(event.target.value)}>
                <option value="">Nowhere in particular</option>
                {slots.map(([id, name]) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            </>
          )}
        </>
      )}
      <div className="mt-4 flex gap-2">
        <button type="submit" className="btn btn-main" aria-disabled={chosen === null ? choices.length !== 1 : !ready}>
          {chosen === null ? "Take it" : "Log it"}
        </button>
        <ModalClose>Back</ModalClose>
      </div>
    </form>
  );
}

/** What begins like the words, to be chosen with one tap. */
function ItemChoice({
  words,
  onWords,
  choices,
  busy,
  onChoose,
}: {
  words: string;
  onWords: (words: string) => void;
  choices: readonly Choice[];
  busy: boolean;
  onChoose: (one: Choice) => void;
}) {
  return (
    <>
      <label htmlFor="used-item" className="mb-1 block font-semibold">
        Part or material
      </label>
      <input
        id="used-item"
        className="field"
        placeholder="Scan or type"
        autoComplete="off"
        maxLength={80}
        value={words}
        onChange={(event) => onWords(event.target.value)}
      />
      <ul aria-label="Found" className="mt-2 max-h-72 space-y-1 overflow-y-auto">
        {choices.map((item) => (
          <li key={item.id}>
            <button type="button" className="btn w-full justify-start text-left" onClick={() => onChoose(item)}>
              {item.name}
            </button>
          </li>
        ))}
      </ul>
      <p role="status" className="mt-1 min-h-6 text-sm text-ink-soft">
        {words.trim().length >= 2 && choices.length === 0 && !busy
          ? "Nothing of that name. A lead adds it to the catalogue; log it as a note meanwhile."
          : ""}
      </p>
    </>
  );
}

/** What the sheet's own procedure takes comes first, and is there without a connection. */
function choicesFor(words: string, procedure: Procedure, found: readonly Choice[]): Choice[] {
  const own: Choice[] = [
    ...procedure.materials.map(({ item, name, unit }) => ({ id: item, name, unit })),
    ...procedure.parts.map(({ item, name }) => ({ id: item, name, unit: "pc" })),
  ];
  const q = words.trim().toLowerCase();
  const all = [...own.filter((one) => q === "" || one.name.toLowerCase().includes(q)), ...found];
  return [...new Map(all.map(({ id, name, unit }) => [id, { id, name, unit }])).values()].slice(0, MOST_SHOWN);
}

/** Places that take the item, by the procedure and by what is in the machine now. */
function slotsFor(
  item: string,
  procedure: Procedure,
  fitted: readonly (readonly [string, { item: string }])[],
): [string, string][] {
  const own = procedure.parts.filter((part) => part.item === item).flatMap((part) => part.slots);
  const there = fitted.flatMap(([slot, piece]) =>
    piece.item === item && !own.some((one) => one.id === slot) ? [[slot, inWords(slot)] as [string, string]] : [],
  );
  return [...own.map(({ id, name }): [string, string] => [id, name]), ...there];
}
