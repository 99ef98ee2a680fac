import { addDays } from "@core";
import { getDb, Op } from "@db";

import { guideOf } from "~/procedures/guides/guides.server";

/** So long back one looks, and so often it has to have happened to be told. */
const LOOKS_BACK_DAYS = 365;
const OFTEN = 2;
const MOST = 3;

/**
 * What the people who use a machine should know: the lessons of damage by handling that was found on it more than once, the most
 * frequent first.
 */
export async function lessonsFor(machineId: string, today: string): Promise<string[]> {
  const outcomes = await getDb().models.FaultOutcome.findAll({
    attributes: ["cause", "family"],
    where: { machineId, outcome: { [Op.ne]: "not-cured" }, onDay: { [Op.gte]: addDays(today, -LOOKS_BACK_DAYS) } },
    raw: true,
  });
  const [first] = outcomes;
  if (outcomes.length < OFTEN || !first) return [];
  const guide = await guideOf(first.family);
  const counts = new Map<string, number>();
  for (const { cause } of outcomes) counts.set(cause, (counts.get(cause) ?? 0) + 1);
  return [...counts]
    .filter(([, n]) => n >= OFTEN)
    .sort((a, b) => b[1] - a[1])
    .flatMap(([id]) => guide?.causes.find((one) => one.id === id)?.handling?.lesson ?? [])
    .filter((lesson, i, all) => all.indexOf(lesson) === i)
    .slice(0, MOST);
}
