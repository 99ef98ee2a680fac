import type { SheetStep, StepRef } from "@core";

import { Notice } from "~/ui/notice";

import { same } from "./use-shown-step";

/** A step whose turn it is not: which come before it, a tap away. */
export function ComesFirst({
  steps,
  next,
  shown,
  onOpen,
}: {
  steps: readonly SheetStep[];
  next: readonly StepRef[];
  shown: SheetStep;
  onOpen: (step: SheetStep) => void;
}) {
  if (shown.settled || next.some((ref) => same(ref, shown))) return null;
  const open = steps.filter((one) => next.some((ref) => same(ref, one)));
  const earlier = open.filter((one) => steps.indexOf(one) < steps.indexOf(shown));
  const first = (earlier.length > 0 ? earlier : open).slice(0, 2);
  return (
    <Notice title="Not yet: first">
      <span className="flex flex-wrap gap-2">
        {first.map((one) => (
          <button key={`${one.step}#${one.round}`} type="button" className="btn" onClick={() => onOpen(one)}>
            {one.definition.title}
            {one.state?.status === "running" && " (its clock runs)"}
          </button>
        ))}
      </span>
    </Notice>
  );
}
