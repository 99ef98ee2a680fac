import { clockTime, type DayPlan, type DayProblem } from "@core";
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { clsx } from "clsx";
import { ArrowDown, ArrowUp, GripVertical } from "lucide-react";
import { useState } from "react";
import { Form } from "react-router";

import { inHours } from "~/kit/days/day-time";
import { Section } from "~/ui/section";

import { useOrderPlan } from "./use-order-plan";

/**
 * The round's sites in order: dragged by their handle, moved by keys while it has the focus, or by the arrows. Another order
 * shows at once what it costs, and is kept or put back.
 */
export function StopOrder({
  problem,
  plan,
  siteName,
  fixed,
}: {
  problem: DayProblem;
  plan: DayPlan;
  siteName: (id: string) => string;
  /** The order in force was chosen by hand. */
  fixed: boolean;
}) {
  const before = plan.stops.map((stop) => stop.site);
  const [order, setOrder] = useState(before);
  const changed = order.some((id, i) => id !== before[i]);
  const tried = useOrderPlan(problem, changed ? order : null);
  const shown = tried ?? plan;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const move = (from: number, to: number): void => setOrder((list) => arrayMove(list, from, to));
  const drop = ({ active, over }: DragEndEvent): void => {
    if (over && active.id !== over.id) move(order.indexOf(String(active.id)), order.indexOf(String(over.id)));
  };
  return (
    <Section id="order" title="Order of sites" panel>
      <DndContext
        id="stops"
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={drop}
        accessibility={{
          screenReaderInstructions: {
            draggable:
              "Press space to pick the site up, the arrow keys to move it, space to put it down, escape to leave it where it was.",
          },
          announcements: {
            onDragStart: ({ active }) => `Picked up ${siteName(String(active.id))}.`,
            onDragOver: ({ active, over }) =>
              over ? `${siteName(String(active.id))} is over place ${order.indexOf(String(over.id)) + 1}.` : undefined,
            onDragEnd: ({ active, over }) =>
              over
                ? `${siteName(String(active.id))} put down at place ${order.indexOf(String(over.id)) + 1}.`
                : undefined,
            onDragCancel: ({ active }) => `${siteName(String(active.id))} stays where it was.`,
          },
        }}
      >
        <SortableContext items={order} strategy={verticalListSortingStrategy}>
          <ol className="mt-2 divide-y divide-line border-y border-line">
            {order.map((id, i) => (
              <Row
                key={id}
                id={id}
                name={siteName(id)}
                arrive={changed && !tried ? null : (shown.stops.find((stop) => stop.site === id)?.arrive ?? null)}
                earlier={i > 0 ? () => move(i, i - 1) : null}
                later={i < order.length - 1 ? () => move(i, i + 1) : null}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <div role="status" className="mt-2 text-sm">
        {changed && tried && <p>{costInWords(tried, plan)}</p>}
        {changed && !tried && <p>Working out what this order costs…</p>}
        {!changed && fixed && <p className="text-ink-soft">Chosen by hand.</p>}
      </div>
      {changed && (
        <Form method="post" className="mt-2 flex flex-wrap gap-2">
          <input type="hidden" name="order" value={order.join(" ")} />
          <button className="btn btn-main" name="intent" value="order">
            Keep this order
          </button>
          <button type="button" className="btn" onClick={() => setOrder(before)}>
            Put it back
          </button>
        </Form>
      )}
    </Section>
  );
}

/** What another order makes of the day, against the one in force. */
function costInWords(tried: DayPlan, plan: DayPlan): string {
  const later = tried.endAt - plan.endAt;
  const back = `Back at ${clockTime(tried.endAt)}, ${later === 0 ? "as before" : `${inHours(Math.abs(later))} ${later > 0 ? "later" : "earlier"}`}`;
  const way = tried.travelMinutes - plan.travelMinutes;
  const ways = way === 0 ? "" : `; ${inHours(Math.abs(way))} ${way > 0 ? "more" : "less"} on the way`;
  const late =
    tried.lateMinutes > plan.lateMinutes ? `; ${inHours(tried.lateMinutes)} too late for a site's hours` : "";
  return `${back}${ways}${late}.`;
}

function Row(props: {
  id: string;
  name: string;
  arrive: number | null;
  earlier: (() => void) | null;
  later: (() => void) | null;
}) {
  const { id, name, arrive, earlier, later } = props;
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id,
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={clsx("flex items-center bg-surface", isDragging && "relative z-10 opacity-80")}
    >
      <button
        ref={setActivatorNodeRef}
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`Move ${name}`}
        className="grid min-h-11 w-9 shrink-0 touch-none place-items-center"
      >
        <GripVertical size={18} aria-hidden="true" />
      </button>
      <span className="min-w-0 flex-1 py-1 wrap-anywhere">
        {name} <span className="figure text-sm text-ink-soft">{arrive === null ? "" : clockTime(arrive)}</span>
      </span>
      <Arrow label={`Go to ${name} earlier`} onClick={earlier}>
        <ArrowUp size={18} aria-hidden="true" />
      </Arrow>
      <Arrow label={`Go to ${name} later`} onClick={later}>
        <ArrowDown size={18} aria-hidden="true" />
      </Arrow>
    </li>
  );
}

function Arrow({
  label,
  onClick,
  children,
}: {
  label: string;
  onClick: (() => void) | null;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={onClick === null}
      onClick={onClick ?? undefined}
      className="grid min-h-11 w-9 shrink-0 place-items-center disabled:opacity-30"
    >
      {children}
    </button>
  );
}
