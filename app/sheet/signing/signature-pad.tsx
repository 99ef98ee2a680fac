import { must } from "@core";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import Pad from "signature_pad";

import { signaturePath } from "./signature-path";

/**
 * The whole screen to sign on with finger, pen or mouse: handed over to the customer with what it is for. Gives the name and an SVG
 * path on a 560 × 180 field.
 */
export function SignaturePad({
  summary,
  name,
  names,
  onDone,
  onClosed,
}: {
  /** What is signed, in a line or two. */
  summary: readonly string[];
  name: string;
  /** Whom the firm knows at the site. */
  names: readonly string[];
  onDone: (name: string, drawing: string) => void;
  /** After it is closed with a signature: where the keys go on. */
  onClosed: () => void;
}) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState(name);
  const [drawing, setDrawing] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const signed = useRef(false);
  const done = (): void => {
    const missing =
      typed.trim() === "" ? "Type the name of who signs." : drawing === "" ? "Sign in the box first." : null;
    setProblem(missing);
    if (missing) return;
    signed.current = true;
    onDone(typed.trim(), drawing);
    setOpen(false);
  };
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        signed.current = false;
        setProblem(null);
        setDrawing("");
        setOpen(next);
      }}
    >
      <Dialog.Trigger className={name === "" ? "btn btn-main btn-big w-full sm:w-auto" : "btn"}>
        {name === "" ? "Customer signs" : "Sign again"}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-0 z-50 flex h-dvh flex-col gap-2 bg-surface p-3 text-ink"
          onCloseAutoFocus={(event) => {
            if (!signed.current) return;
            event.preventDefault();
            onClosed();
          }}
        >
          <Dialog.Title className="text-lg font-bold">Your signature</Dialog.Title>
          <div className="max-h-[25dvh] overflow-y-auto text-sm" tabIndex={0} role="group" aria-label="What is signed">
            {summary.map((line) => (
              <p key={line} className="wrap-anywhere">
                {line}
              </p>
            ))}
          </div>
          <label className="block">
            <span className="mb-1 block font-semibold">Customer&apos;s name</span>
            <input
              className="field"
              value={typed}
              maxLength={120}
              autoComplete="off"
              list="known-at-site"
              onChange={(event) => setTyped(event.target.value)}
            />
          </label>
          <datalist id="known-at-site">
            {names.map((one) => (
              <option key={one} value={one} />
            ))}
          </datalist>
          <Canvas onChange={setDrawing} />
          <p role="alert" className="min-h-6 text-sm font-semibold">
            {problem && `! ${problem}`}
          </p>
          <div className="flex justify-between gap-3">
            <Dialog.Close className="btn">Not now</Dialog.Close>
            <button type="button" className="btn btn-main btn-big" onClick={done}>
              Done
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Paper is white in either theme: what is drawn stays to be seen when that changes in between. */
const PAPER = "#ffffff";
const INK = "#17191c";

/** Fills what room there is. Turning the phone keeps what was drawn. */
function Canvas({ onChange }: { onChange: (path: string) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<Pad | null>(null);
  const report = useRef(onChange);
  useEffect(() => {
    report.current = onChange;
  }, [onChange]);
  useEffect(() => {
    const element = must(canvas.current);
    const made = new Pad(element, { penColor: INK });
    pad.current = made;
    // The pad draws in the element's own pixels, so the canvas must have as many.
    const fit = (): void => {
      const drawn = made.toData();
      const { width, height } = element.getBoundingClientRect();
      element.width = width;
      element.height = height;
      made.fromData(drawn);
    };
    const sizes = new ResizeObserver(fit);
    sizes.observe(element);
    made.addEventListener("endStroke", () =>
      report.current(signaturePath(made.toData().map((stroke) => stroke.points))),
    );
    return () => {
      sizes.disconnect();
      made.off();
    };
  }, []);
  return (
    <>
      <canvas
        ref={canvas}
        aria-label="Signature"
        role="img"
        className="block min-h-0 w-full flex-1 touch-none border-2 border-ink-soft"
        style={{ background: PAPER }}
      />
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <p className="text-sm text-ink-soft">By keyboard, choose &quot;Name typed&quot; instead.</p>
        <button
          type="button"
          className="min-h-11 underline"
          onClick={() => {
            pad.current?.clear();
            onChange("");
          }}
        >
          Clear the box
        </button>
      </div>
    </>
  );
}
