import type { Step } from "@core";

import { withField } from "./field-kinds";

/** Where a step is dragged besides up and down: onto the bench with the parts above it, or back to the machine. */
export type Aside = "in" | "out" | null;

/** As far to the side is meant. */
const ASIDE_PX = 28;
export const asideOf = (deltaX: number): Aside => (deltaX > ASIDE_PX ? "in" : deltaX < -ASIDE_PX ? "out" : null);

/** The steps with one moved, and on another way when it was dragged aside. */
export function moveStep(steps: readonly Step[], from: number, to: number, aside: Aside): Step[] {
  const moved = [...steps];
  const [step] = moved.splice(from, 1);
  if (!step) return moved;
  moved.splice(to, 0, onWay(step, moved.slice(0, to), aside));
  return moved;
}

function onWay(step: Step, above: readonly Step[], aside: Aside): Step {
  if (aside === null) return step;
  if (aside === "out") return withField(step, "path", undefined);
  // A step that begins a way of its own stays at the machine.
  const open = step.opens === undefined ? above.findLast((one) => one.opens ?? one.path) : undefined;
  const path = open?.opens ?? open?.path;
  return path === undefined ? step : withField(step, "path", path);
}
