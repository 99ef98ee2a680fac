import { must } from "../must";
import { plainNumber } from "../numbers";
import type { MachineState } from "../sheet/procedure";
import { UNKNOWN_CAUSE } from "../sheet/readable-events";
import type { LoggedCheck } from "../sheet/run-state";
import { StateRules } from "../sheet/states";
import { checkOrder, without } from "./check-order";
import type { FaultCheck, FaultSymptom, FindStep, OptionClause } from "./guide";
import type { LearnedCause } from "./learn-causes";
import { type SearchGate, wayInto } from "./way-into";

/** Share of faults of which no guide knows the cause; common practice. */
export const UNKNOWN_SHARE = 0.05;
/** Below this a cause is as good as ruled out. */
const RULED_OUT = 0.01;

export interface SearchInput {
  step: FindStep;
  states: readonly MachineState[];
  /** What is complained of. */
  symptom: string;
  /** Ids of fitted options. */
  options: readonly string[];
  /** States in force. */
  inside?: Iterable<string>;
  /** Checks so far, those of earlier searches on the sheet among them. */
  checks?: readonly Pick<LoggedCheck, "check" | "result">[];
  /** Causes that were remedied already. */
  cured?: readonly string[];
  /** What was learned of the causes, `unknown` among them; the guide's typical chances for what is not there. */
  learned?: Readonly<Record<string, Pick<LearnedCause, "weight">>>;
}

/** A check that is still to be done, from where the machine is now. */
export interface OpenCheck {
  check: FaultCheck;
  /** Chance that it shows the cause. */
  chance: number;
  /** Gates on the way into its states, and the minutes that they and waits for them take. */
  gates: SearchGate[];
  wayMinutes: number;
  /** Causes that it leaves next to no chance when it shows nothing. */
  rulesOut: string[];
}

/** The chances for a symptom as the guide has them, what it does not know among them; adding up to 1. */
export function typicalChances(symptom: Pick<FaultSymptom, "causes">): Record<string, number> {
  const total = symptom.causes.reduce((sum, one) => sum + one.chance, 0);
  return {
    ...Object.fromEntries(symptom.causes.map((one) => [one.cause, (one.chance / total) * (1 - UNKNOWN_SHARE)])),
    [UNKNOWN_CAUSE]: UNKNOWN_SHARE,
  };
}

/** Whether a machine with these options is meant. */
export const isMeant = (on: readonly OptionClause[] | undefined, options: readonly string[]): boolean =>
  (on ?? []).every(({ option, fitted }) => options.includes(option) === fitted);

/** Where the search for one fault stands: chances of its causes, and which check to do next. */
export class GuideSearch {
  readonly symptom: FaultSymptom;
  /** Chance of each cause, and of one that the guide does not know, the likeliest first; those ruled out stay, with next to none. */
  readonly causes: { cause: string; name: string; chance: number }[];
  /** What was complained of cannot be by any cause that the guide knows. */
  readonly allRuledOut: boolean;
  /** Still to be done, the best first; those that cannot find anything come last. */
  readonly open: OpenCheck[];
  /** Until the cause is found, or no check is left that could. */
  readonly expectedMinutes: number;
  /** No other order of the checks is expected to find it sooner. */
  readonly isExact: boolean;
  /** Rule, inputs and arithmetic, a sentence each. */
  readonly because: string[];
  readonly #rules: StateRules;

  constructor(input: SearchInput) {
    const { step, states, options, checks = [], cured = [], inside = [] } = input;
    this.#rules = new StateRules(states);
    this.symptom = must(step.symptoms.find((one) => one.id === input.symptom));
    const typical = typicalChances(this.symptom);
    const meant = step.causes.filter((one) => Object.hasOwn(typical, one.id) && isMeant(one.on, options));
    const names = [...meant.map((one) => one.id), UNKNOWN_CAUSE];
    const usable = step.checks.filter(
      (one) => isMeant(one.on, options) && one.finds.some(({ cause }) => names.includes(cause)),
    );
    const finds = new Map(
      usable.map((one) => [one.id, names.map((id) => one.finds.find(({ cause }) => cause === id)?.share ?? 0)]),
    );
    const { chances, allRuledOut } = afterwards(
      names.map((id) => (cured.includes(id) ? 0 : (input.learned?.[id]?.weight ?? must(typical[id])))),
      checks.flatMap((one) => (one.result === "clear" ? [finds.get(one.check) ?? names.map(() => 0)] : [])),
    );
    this.allRuledOut = allRuledOut;
    this.causes = names
      .map((cause, c) => ({
        cause,
        name: meant.find((one) => one.id === cause)?.name ?? "Something else",
        chance: must(chances[c]),
      }))
      .sort((a, b) => b.chance - a.chance);

    const done = new Set(checks.map((one) => one.check));
    const left = usable.filter((one) => !done.has(one.id));
    const places = this.#placesFrom(new Set(inside), left);
    const { order, legs, expectedMinutes, isExact } = checkOrder({
      chances,
      finds: left.map((one) => must(finds.get(one.id))),
      minutes: left.map((one) => one.minutes),
      states: places.length,
      start: 0,
      way: (place, k) => must(must(places[place]).ways[k]).minutes,
      after: (place, k) => must(must(places[place]).ways[k]).to,
    });
    this.expectedMinutes = expectedMinutes;
    this.isExact = isExact;
    this.because = [
      "Chances: typical ones, or learned from what was found, each times what the checks leave that showed nothing (Bayes' rule).",
      ...legs.map(
        ({ check, minutes, reach }) =>
          `${must(left[check]).title}: ${plainNumber(minutes)} min with the way there, in ${Math.round(reach * 100)} of 100 such faults.`,
      ),
      ...(legs.length === 0
        ? []
        : [
            `Each times how often it comes to it: ${plainNumber(Math.round(expectedMinutes * 10) / 10)} min to be expected.`,
          ]),
    ];
    this.open = order.map((k) => {
      const check = must(left[k]);
      const shares = must(finds.get(check.id));
      const { gates, minutes } = must(must(places[0]).ways[k]);
      const chance = chances.reduce((sum, one, c) => sum + one * must(shares[c]), 0);
      const rulesOut = names.filter(
        (_, c) =>
          must(chances[c]) >= RULED_OUT &&
          (chance >= 1 || (must(chances[c]) * (1 - must(shares[c]))) / (1 - chance) < RULED_OUT),
      );
      return { check, chance, gates, wayMinutes: minutes, rulesOut };
    });
  }

  /** Every set of states that the checks can lead to, the first being what is in force, with the way from it to each check. */
  #placesFrom(inside: Set<string>, checks: readonly FaultCheck[]): Place[] {
    const keyOf = (states: ReadonlySet<string>): string => this.#rules.order.filter((id) => states.has(id)).join(" ");
    const numbers = new Map<string, number>([[keyOf(inside), 0]]);
    const sets = [inside];
    const places: Place[] = [];
    for (let place = 0; place < sets.length; place++) {
      const from = must(sets[place]);
      const ways = checks.map((check) => {
        const way = wayInto(this.#rules, from, check.state ?? []);
        const key = keyOf(way.after);
        let to = numbers.get(key);
        if (to === undefined) {
          to = sets.length;
          numbers.set(key, to);
          sets.push(way.after);
        }
        return { to, minutes: way.minutes, gates: way.gates };
      });
      places.push({ ways });
    }
    return places;
  }
}

interface Place {
  ways: { to: number; minutes: number; gates: SearchGate[] }[];
}

/** Bayes' rule for checks that showed nothing; where no known cause is left, it is one that the guide does not know. */
function afterwards(
  weights: readonly number[],
  showedNothing: readonly (readonly number[])[],
): { chances: number[]; allRuledOut: boolean } {
  const known = showedNothing.reduce<readonly number[]>(without, weights);
  const total = known.reduce((sum, one) => sum + one, 0);
  const allRuledOut = known.slice(0, -1).every((one) => one <= 0);
  return { chances: known.map((one, c) => (total > 0 ? one / total : c === known.length - 1 ? 1 : 0)), allRuledOut };
}
