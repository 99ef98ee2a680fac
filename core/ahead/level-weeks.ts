import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { must } from "../must";
import { requireNotNegative, requirePositiveWhole } from "../numbers";
/** A piece of planned work that may move to other weeks without leaving its tolerance. */
export interface LevelItem {
  id: string;
  /** Hands-on minutes. */
  minutes: number;
  /** Week it falls due in, from 0. */
  week: number;
  /** First and last week it may be done in; `week` lies between them. */
  from: number;
  to: number;
}

export interface LevelModel {
  /** The model in CPLEX LP format, for any MIP solver. */
  lp: string;
  /** For each class of like items: the variable of each allowed week, and the items themselves. */
  classes: { variables: { name: string; week: number }[]; items: LevelItem[] }[];
}

/** A shorter fullest week comes first, whatever else it costs. */
const PEAK_COST = 1000;
/** Then the weeks above the mean are brought down, a minute for a minute. */
const EXCESS_COST = 1;
/** Cost of moving one hour of work by one week: moves only where they pay. */
const MOVE_COST = 0.5;

/** Longer than anybody looks ahead: a century. */
const MOST_WEEKS = 5300;

/** @throws CoreError unless every item's weeks lie in order inside the weeks there are */
function requireItems(items: readonly LevelItem[], weeks: number): void {
  if (requirePositiveWhole(weeks, "weeks") > MOST_WEEKS)
    throw new CoreError("out-of-range", "weeks", `Up to ${MOST_WEEKS} weeks can be levelled, not ${weeks}.`);
  requireList(items, "items").forEach((item, i) => {
    const { id, minutes, week, from, to } = requireRecord(item, `items[${i}]`);
    requireText(id, `items[${i}].id`);
    requireNotNegative(minutes, `items[${i}].minutes`);
    for (const [name, value] of Object.entries({ week, from, to }))
      if (!Number.isInteger(value) || value < 0 || value >= weeks)
        throw new CoreError(
          "out-of-range",
          `items[${i}].${name}`,
          `items[${i}].${name} must be a week from 0 to ${weeks - 1}, not ${String(value)}.`,
        );
    if (from > week || week > to)
      throw new CoreError(
        "out-of-range",
        `items[${i}]`,
        `Week ${week} of items[${i}] must lie between ${from} and ${to}.`,
      );
  });
}

/**
 * The levelling of weekly hours as a mixed-integer programme: choose a week for each item so that the fullest week is
 * as short as possible, then the weeks above the mean as little above it as possible, by the fewest and shortest moves.
 *
 * Items of the same length and window are one class with integer counts, which keeps the model small whatever the
 * number of machines.
 */
export function levelModel(items: readonly LevelItem[], weeks: number): LevelModel {
  requireItems(items, weeks);
  const byClass = new Map<string, LevelItem[]>();
  const fixed = new Array<number>(weeks).fill(0);
  for (const item of items) {
    if (item.from === item.to) fixed[item.week] = must(fixed[item.week]) + item.minutes;
    else {
      const key = `${item.minutes}/${item.week}/${item.from}/${item.to}`;
      const list = byClass.get(key);
      if (list) list.push(item);
      else byClass.set(key, [item]);
    }
  }
  const classes = [...byClass.values()].map((list, c) => ({
    items: list,
    variables: Array.from({ length: must(list[0]).to - must(list[0]).from + 1 }, (_, i) => ({
      name: `x${c}_${must(list[0]).from + i}`,
      week: must(list[0]).from + i,
    })),
  }));
  const load: string[][] = Array.from({ length: weeks }, () => []);
  const cost: string[] = [`${PEAK_COST} peak`];
  const counts: string[] = [];
  const names: string[] = [];
  for (const one of classes) {
    const { minutes, week } = must(one.items[0]);
    for (const variable of one.variables) {
      must(load[variable.week]).push(`${minutes} ${variable.name}`);
      if (variable.week !== week)
        cost.push(`${(MOVE_COST * minutes * Math.abs(variable.week - week)) / 60} ${variable.name}`);
      names.push(variable.name);
    }
    counts.push(
      ` c${counts.length}: ${one.variables.map((variable) => variable.name).join(" + ")} = ${one.items.length}`,
    );
  }
  const rows = load.map(
    (terms, week) =>
      ` w${week}: ${terms.length > 0 ? `${terms.join(" + ")} - peak` : "- peak"} <= ${-must(fixed[week])}`,
  );
  const mean = items.reduce((sum, item) => sum + item.minutes, 0) / weeks;
  const excess = load.map((terms, week) => {
    cost.push(`${EXCESS_COST} e${week}`);
    return ` m${week}: ${terms.length > 0 ? `${terms.join(" + ")} - e${week}` : `- e${week}`} <= ${mean - must(fixed[week])}`;
  });
  const lp = [
    "Minimize",
    ` obj: ${cost.join(" + ")}`,
    "Subject To",
    ...counts,
    ...rows,
    ...excess,
    "Bounds",
    " peak >= 0",
    "General",
    ` ${names.join(" ")}`,
    "End",
  ].join("\n");
  return { lp, classes };
}

/** Weeks chosen by a solver, item by item; within a class the first items take the earlier weeks. */
export function levelledWeeks(model: LevelModel, value: (variable: string) => number): Map<string, number> {
  const chosen = new Map<string, number>();
  for (const { variables, items } of model.classes) {
    let next = 0;
    for (const { name, week } of variables) {
      for (let left = Math.round(value(name)); left > 0 && next < items.length; left--)
        chosen.set(must(items[next++]).id, week);
    }
  }
  return chosen;
}

/** Minutes a week. */
export function weeklyMinutes(
  items: readonly LevelItem[],
  weeks: number,
  chosen?: ReadonlyMap<string, number>,
): number[] {
  const minutes = new Array<number>(weeks).fill(0);
  for (const item of items)
    minutes[chosen?.get(item.id) ?? item.week] = must(minutes[chosen?.get(item.id) ?? item.week]) + item.minutes;
  return minutes;
}
