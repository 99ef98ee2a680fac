import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { must } from "../must";
import { requireNotNegative, requireShare } from "../numbers";
import { checkOrder } from "./check-order";

export interface NextCheckInput {
  /** Weights of any scale, not all of them 0; exactly one cause is present. */
  causes: { id: string; weight: number }[];
  /** `finds`: the chance that the check shows it when that cause is the one; 0 when absent. */
  checks: { id: string; minutes: number; finds: Record<string, number>; state?: string }[];
  seen: { check: string; found: boolean }[];
  /** The state that the machine is in; unknown, the first state costs nothing. */
  from?: string;
  /** Minutes from one state into another. */
  ways?: Record<string, Record<string, number>>;
}

export interface NextCheck {
  /** Chance of each cause after what was seen. */
  posterior: Record<string, number>;
  /** Checks that were not done yet, the best first; those that cannot find anything come last. */
  order: string[];
  best: string | null;
  /** Until found, or until no check that is left can find anything. */
  expectedMinutes: number;
}

/**
 * Which check to do next, so that the one cause is found in the fewest minutes to be expected: chances by Bayes' rule from what was
 * seen, the order by dynamic programming over the checks done and the state of the machine (R. Bellman, Dynamic Programming, 1957).
 * Each check is done once, and results are independent given the cause. With conclusive checks, one a cause, it is the order of
 * `orderChecks`.
 *
 * @returns a check that found ends the search: `order` empty, `best` null, 0 minutes
 * @throws CoreError `out-of-range` when what was seen cannot be, `unknown-reference` for a cause, check or way that is not there
 * @example nextCheck({ causes: [{ id: "a", weight: 1 }, { id: "b", weight: 1 }], checks: [
 *   { id: "look", minutes: 2, finds: { b: 1 } }, { id: "open", minutes: 10, finds: { a: 1 } }], seen: [] })
 * // => { posterior: { a: 0.5, b: 0.5 }, order: ["look", "open"], best: "look", expectedMinutes: 7 }
 */
export function nextCheck(input: NextCheckInput): NextCheck {
  const { causes, checks, seen, from, ways } = readInput(input);
  const chances = posteriorOf(causes, checks, seen);
  const posterior = Object.fromEntries(causes.map(({ id }, c) => [id, must(chances[c])]));
  if (seen.some((one) => one.found)) return { posterior, order: [], best: null, expectedMinutes: 0 };

  const done = new Set(seen.map((one) => one.check));
  const open = checks.filter(({ id }) => !done.has(id));
  const names = [...new Set([...(from === undefined ? [] : [from]), ...open.flatMap((one) => one.state ?? [])])];
  const unknown = names.length;
  const place = (state: string | undefined, otherwise: number): number =>
    state === undefined ? otherwise : names.indexOf(state);
  const { order, expectedMinutes } = checkOrder({
    chances,
    finds: open.map((one) => causes.map(({ id }) => shareOf(one.finds, id))),
    minutes: open.map((one) => one.minutes),
    states: unknown + 1,
    start: place(from, unknown),
    after: (state, k) => place(must(open[k]).state, state),
    way: (state, k) => {
      const to = must(open[k]).state;
      const at = names[state];
      return to === undefined || at === undefined || at === to || !ways ? 0 : must(ways[at]?.[to]);
    },
  });
  return {
    posterior,
    order: order.map((k) => must(open[k]).id),
    best: bestOf(open, order, chances, causes),
    expectedMinutes,
  };
}

/** Names of causes are anybody's, "constructor" among them. */
const shareOf = (finds: Readonly<Record<string, number>>, cause: string): number =>
  Object.hasOwn(finds, cause) ? must(finds[cause]) : 0;

/** The first of the order when it can find anything. */
function bestOf(
  open: NextCheckInput["checks"],
  order: readonly number[],
  chances: readonly number[],
  causes: NextCheckInput["causes"],
): string | null {
  const first = order[0] === undefined ? undefined : open[order[0]];
  return first && causes.some(({ id }, c) => must(chances[c]) * shareOf(first.finds, id) > 0) ? first.id : null;
}

/** Bayes' rule, one result after the other. */
function posteriorOf(
  causes: NextCheckInput["causes"],
  checks: NextCheckInput["checks"],
  seen: NextCheckInput["seen"],
): number[] {
  const total = causes.reduce((sum, one) => sum + one.weight, 0);
  let chances = causes.map((one) => one.weight / total);
  seen.forEach(({ check, found }, i) => {
    const { finds } = must(checks.find((one) => one.id === check));
    chances = chances.map((chance, c) => {
      const shows = shareOf(finds, must(causes[c]).id);
      return chance * (found ? shows : 1 - shows);
    });
    const sum = chances.reduce((all, one) => all + one, 0);
    if (sum <= 0)
      throw new CoreError(
        "out-of-range",
        `seen[${i}]`,
        `None of these causes goes with what was seen: "${check}" showed ${found ? "something" : "nothing"}.`,
      );
    chances = chances.map((chance) => chance / sum);
  });
  return chances;
}

function readInput(input: NextCheckInput): NextCheckInput {
  const { causes, checks, seen, from, ways } = requireRecord(input, "input");
  const causeIds = idsOf(causes, "causes", "cause");
  causes.forEach((one, i) => requireNotNegative(one.weight, `causes[${i}].weight`));
  if (causes.length === 0) throw new CoreError("missing", "causes", "Give at least one cause.");
  if (causes.every((one) => one.weight === 0))
    throw new CoreError("out-of-range", "causes", "At least one cause needs a weight above 0.");
  const checkIds = idsOf(checks, "checks", "check");
  checks.forEach((one, i) => {
    requireNotNegative(one.minutes, `checks[${i}].minutes`);
    if (one.state !== undefined) requireText(one.state, `checks[${i}].state`);
    for (const [cause, share] of Object.entries(requireRecord(one.finds, `checks[${i}].finds`))) {
      requireShare(share, `checks[${i}].finds.${cause}`);
      if (!causeIds.has(cause))
        throw new CoreError("unknown-reference", `checks[${i}].finds.${cause}`, `There is no cause "${cause}".`);
    }
  });
  const twice = new Set<string>();
  requireList(seen, "seen").forEach((one, i) => {
    const { check, found } = requireRecord(one, `seen[${i}]`);
    if (!checkIds.has(requireText(check, `seen[${i}].check`)))
      throw new CoreError("unknown-reference", `seen[${i}].check`, `There is no check "${check}".`);
    if (twice.has(check)) throw new CoreError("bad-value", `seen[${i}].check`, `"${check}" is there twice.`);
    twice.add(check);
    if (typeof found !== "boolean")
      throw new CoreError("bad-value", `seen[${i}].found`, `seen[${i}].found must be true or false.`);
  });
  if (from !== undefined) requireText(from, "from");
  if (ways !== undefined) requireWays(ways, new Set([from, ...checks.map((one) => one.state)]));
  return input;
}

function idsOf(list: readonly { id: string }[], path: string, what: string): Set<string> {
  const ids = requireList(list, path).map((one, i) =>
    requireText(requireRecord(one, `${path}[${i}]`).id, `${path}[${i}].id`),
  );
  const all = new Set(ids);
  if (all.size < ids.length) throw new CoreError("bad-value", path, `Every ${what} needs an id of its own.`);
  return all;
}

function requireWays(ways: Record<string, Record<string, number>>, states: ReadonlySet<string | undefined>): void {
  const named = [...states].filter((one) => one !== undefined);
  requireRecord(ways, "ways");
  for (const from of named)
    for (const to of named) {
      const path = `ways.${from}.${to}`;
      const minutes = Object.hasOwn(ways, from) ? requireRecord(ways[from], `ways.${from}`)[to] : undefined;
      if (from === to) continue;
      if (minutes === undefined)
        throw new CoreError("unknown-reference", path, `Say how many minutes it is from "${from}" to "${to}".`);
      requireNotNegative(minutes, path);
    }
}
