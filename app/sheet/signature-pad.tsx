import { must } from "@core";
import { useEffect, useRef } from "react";
import Pad from "signature_pad";

const WIDTH = 560;
const HEIGHT = 180;

/** A box to sign in with finger, pen or mouse. Gives an SVG path on a 560 × 180 field; '' while empty. */
export function SignaturePad({ onChange }: { onChange: (path: string) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<Pad | null>(null);
  const report = useRef(onChange);
  useEffect(() => {
    report.current = onChange;
  }, [onChange]);
  useEffect(() => {
    const element = must(canvas.current);
    // The pad draws in the element's own pixels, so the canvas must have as many.
    const { width, height } = element.getBoundingClientRect();
    element.width = width;
    element.height = height;
    const made = new Pad(element, { penColor: getComputedStyle(element).color });
    pad.current = made;
    const tell = (): void => {
      const scale = WIDTH / element.getBoundingClientRect().width;
      report.current(pathOf(made, scale));
    };
    made.addEventListener("endStroke", tell);
    return () => made.off();
  }, []);
  return (
    <div>
      <p id="pad-hint" className="mb-1 text-sm text-ink-soft">
        Sign in the box. By keyboard, choose &quot;Name typed&quot; instead.
      </p>
      <canvas
        ref={canvas}
        width={WIDTH}
        height={HEIGHT}
        aria-describedby="pad-hint"
        aria-label="Signature"
        role="img"
        className="block aspect-[560/180] w-full touch-none border-2 border-ink-soft bg-surface text-ink"
      />
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
  );
}

function pathOf(pad: Pad, scale: number): string {
  const figure = (value: number): string => String(Math.round(value * scale * 10) / 10);
  return pad
    .toData()
    .map((stroke) =>
      stroke.points.map((point, i) => `${i === 0 ? "M" : "L"}${figure(point.x)} ${figure(point.y)}`).join(""),
    )
    .join("");
}
