import { inWords, type LintFinding, type Step } from "@core";
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  type DragMoveEvent,
  type KeyboardCoordinateGetter,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { clsx } from "clsx";
import { GripVertical } from "lucide-react";
import { useState } from "react";

import { type Aside, asideOf, moveStep } from "./move-step";
import { STEP_KINDS } from "./step-words";

const KEY_ASIDE_PX = 32;

/** Up and down from place to place; left and right from the machine to the bench. */
const coordinates: KeyboardCoordinateGetter = (event, args) => {
  const { x, y } = args.currentCoordinates;
  if (event.code === "ArrowRight") return { x: x + KEY_ASIDE_PX, y };
  if (event.code === "ArrowLeft") return { x: x - KEY_ASIDE_PX, y };
  const next = sortableKeyboardCoordinates(event, args);
  return next && { ...next, x };
};

/** The steps in order, those on the bench set in: dragged by their handle, or moved by keys while the handle has the focus. */
export function StepList({
  steps,
  chosen,
  findings,
  onChoose,
  onMove,
}: {
  steps: Step[];
  chosen: string | null;
  findings: readonly Pick<LintFinding, "step">[];
  onChoose: (id: string) => void;
  onMove: (from: number, to: number, aside: Aside) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: coordinates }),
  );
  const [way, setWay] = useState<string | null>(null);
  const place = (id: unknown): number => steps.findIndex((step) => step.id === id);
  const titleOf = (id: unknown): string => steps[place(id)]?.title ?? "";
  /** Which way a step would go if it were put down here; null when it stays on its own. */
  const wayOf = (from: number, to: number, aside: Aside): string | null => {
    if (aside === null) return null;
    const path = moveStep(steps, from, to, aside)[to]?.path;
    return path === undefined ? "at the machine" : `on the bench with ${inWords(path)}`;
  };
  const drag = ({ active, over, delta }: DragMoveEvent): void => {
    const to = place((over ?? active).id);
    setWay(wayOf(place(active.id), to, asideOf(delta.x)));
  };
  const drop = ({ active, over, delta }: DragEndEvent): void => {
    setWay(null);
    if (over && (active.id !== over.id || asideOf(delta.x) !== null))
      onMove(place(active.id), place(over.id), asideOf(delta.x));
  };
  return (
    <DndContext
      id="steps"
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragMove={drag}
      onDragEnd={drop}
      onDragCancel={() => setWay(null)}
      accessibility={{
        screenReaderInstructions: {
          draggable:
            "Press space to pick the step up, up and down to move it, right to put it on the bench with the parts above it, left to put it at the machine, space to put it down, escape to leave it where it was.",
        },
        announcements: {
          onDragStart: ({ active }) => `Picked up ${titleOf(active.id)}.`,
          onDragOver: ({ active, over }) =>
            over ? `${titleOf(active.id)} is over place ${place(over.id) + 1}.` : undefined,
          onDragEnd: ({ active, over }) =>
            over ? `${titleOf(active.id)} put down at place ${place(over.id) + 1}.` : undefined,
          onDragCancel: ({ active }) => `${titleOf(active.id)} stays where it was.`,
        },
      }}
    >
      <p aria-live="assertive" className="min-h-6 text-sm font-semibold">
        {way && `Goes ${way}.`}
      </p>
      <SortableContext items={steps.map((step) => step.id)} strategy={verticalListSortingStrategy}>
        <ol>
          {steps.map((step, i) => (
            <Row
              key={step.id}
              step={step}
              place={i + 1}
              chosen={step.id === chosen}
              faults={findings.filter((one) => one.step === step.id).length}
              onChoose={() => onChoose(step.id)}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

function Row({
  step,
  place,
  chosen,
  faults,
  onChoose,
}: {
  step: Step;
  place: number;
  chosen: boolean;
  faults: number;
  onChoose: () => void;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: step.id,
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={clsx(
        "flex items-stretch border-l-4",
        step.path !== undefined && "ml-6",
        chosen ? "border-tan-fill bg-surface" : step.path === undefined ? "border-transparent" : "border-line",
        isDragging && "relative z-10 bg-surface opacity-80",
      )}
    >
      <button
        ref={setActivatorNodeRef}
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Move ${step.title || "the step without a title"}`}
        className="grid w-11 shrink-0 touch-none place-items-center"
      >
        <GripVertical size={18} aria-hidden="true" />
      </button>
      <button
        type="button"
        aria-current={chosen ? "true" : undefined}
        onClick={onChoose}
        className="min-h-11 min-w-0 flex-1 py-1.5 pr-2 text-left text-sm"
      >
        <span className="figure text-ink-soft">{place} </span>
        <span className={clsx("wrap-anywhere", chosen && "font-semibold")}>{step.title || "(no title)"}</span>
        <span className="block text-ink-soft">
          {STEP_KINDS[step.kind]}
          {step.path !== undefined && ` · bench, ${inWords(step.path)}`}
          {faults > 0 && <strong className="text-ink"> · ! {faults} to mend</strong>}
        </span>
      </button>
    </li>
  );
}
