import { isRecord } from "../inputs";
import { freeName, shortName } from "../short-name";
import type { Procedure } from "./procedure";

/** Lists that a file of format version 2 leaves out when they are empty. */
const LISTS = ["hazards", "protective", "tools", "materials", "parts", "options", "meters"] as const;

/**
 * A procedure of format version 2 as it is written down, with all that was left out: empty lists, the kind of a plain step, and
 * its id, which then comes of its title. Anything else, and what is malformed, is given back as it is, for the checks to refuse.
 */
export function withDefaults(given: unknown): unknown {
  if (!isRecord(given) || given["formatVersion"] !== 2) return given;
  const whole: Record<string, unknown> = { ...given };
  for (const list of LISTS) whole[list] ??= [];
  const { steps } = given;
  if (!Array.isArray(steps)) return whole;
  const taken = new Set(
    steps.flatMap((step: unknown) => (isRecord(step) && step["id"] !== undefined ? [step["id"]] : [])),
  );
  whole["steps"] = steps.map((step: unknown) => {
    if (!isRecord(step)) return step;
    const { id, kind = "do", ...rest } = step;
    if (id !== undefined || typeof rest["title"] !== "string") return { id, kind, ...rest };
    const own = idOf(rest["title"], taken);
    taken.add(own);
    return { id: own, kind, ...rest };
  });
  return whole;
}

/** A procedure of format version 2 as it is written down: without what goes without saying. */
export function terse(procedure: Procedure): object {
  if (procedure.formatVersion !== 2) return procedure;
  const isEmpty = (field: string): boolean => LISTS.some((list) => list === field && procedure[list].length === 0);
  const short: Record<string, unknown> = Object.fromEntries(
    Object.entries(procedure).filter(([field]) => !isEmpty(field)),
  );
  const taken = new Set<unknown>();
  short["steps"] = procedure.steps.map((step) => {
    const { id, kind, ...rest } = step;
    const plain = idOf(step.title, taken) === id;
    taken.add(id);
    return { ...(plain ? {} : { id }), ...(kind === "do" ? {} : { kind }), ...rest };
  });
  // An id that is said takes it from every step that leaves it out, those before it too.
  return JSON.stringify((withDefaults(short) as Procedure).steps.map((step) => step.id)) ===
    JSON.stringify(procedure.steps.map((step) => step.id))
    ? short
    : { ...short, steps: procedure.steps };
}

/** A title as an id, with a number behind it when there is one like it. */
const idOf = (title: string, taken: ReadonlySet<unknown>): string => freeName(shortName(title) || "step", taken);
