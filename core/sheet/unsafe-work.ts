import { inWords } from "../short-name";
import { chemicalClash, chemicalsOf, harmsOf } from "./chemicals";
import { foldRun } from "./fold-run";
import { orderEvents, undoneIds } from "./order-events";
import type { MachineFacts, Procedure } from "./procedure";
import type { EventOf, RunEvent } from "./run-event";

/** Work that was logged although it must not be done. */
export interface UnsafeWork {
  eventId: string;
  step: string;
  round: number;
  /** What met, or what was harmed, in a sentence. */
  because: string;
}

type Working = EventOf<"step-done"> | EventOf<"timer-started"> | EventOf<"mixed"> | EventOf<"counted">;

const isWorking = (event: RunEvent): event is Working =>
  event.type === "step-done" || event.type === "timer-started" || event.type === "mixed" || event.type === "counted";

/**
 * What was worked with chemicals that met what was still there, or with an agent on a surface that it harms: the page does not
 * let it be logged, a device that was away may send it all the same. Each step in each pass once, as it was first worked.
 *
 * One fold of the log for each such step, of which a procedure has few.
 */
export function unsafeWork(procedure: Procedure, events: readonly RunEvent[], machine: MachineFacts): UnsafeWork[] {
  const steps = new Map(procedure.steps.map((step) => [step.id, step]));
  const brings = new Set(stepsThatBringSomething(procedure));
  if (brings.size === 0) return [];
  const ordered = orderEvents(events);
  const undone = undoneIds(ordered);
  const seen = new Set<string>();
  const found: UnsafeWork[] = [];
  ordered.forEach((event, i) => {
    if (!isWorking(event) || undone.has(event.id) || !brings.has(event.step)) return;
    const step = steps.get(event.step);
    const key = `${event.step}#${event.round}`;
    if (!step || seen.has(key)) return;
    seen.add(key);
    const before = foldRun(
      procedure,
      ordered.slice(0, i).filter((one) => !undone.has(one.id)),
    );
    const clash = chemicalClash(procedure, before, machine, event);
    const because = [
      ...(clash
        ? [`"${step.title}" brought ${clash.brings} onto ${clash.present} of "${clash.afterTitle}". ${clash.hazard}`]
        : []),
      ...harmsOf(step, procedure.materials).map(
        ({ material, surface, harm }) =>
          `"${step.title}" used ${material}${surface === null ? "" : ` on ${inWords(surface)}`}. ${harm}`,
      ),
    ];
    if (because.length > 0)
      found.push({ eventId: event.id, step: event.step, round: event.round, because: because.join(" ") });
  });
  return found;
}

/** Ids of the steps that bring a chemical, or use what harms a surface. */
export function stepsThatBringSomething({ steps, materials }: Procedure): string[] {
  return steps
    .filter((step) => chemicalsOf(step, materials).length > 0 || harmsOf(step, materials).length > 0)
    .map((step) => step.id);
}
