import { changeInWords } from "@core";

import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { search } from "~/kit/server/aside.server";

import { firmChance } from "../chance.server";
import { notBefore } from "./day.server";
import { buildDay } from "./day-problem.server";
import { eventsOf, findDay } from "./day-row.server";
import { spreadsOf } from "./spreads";

/** The smallest changes that would make a person's day hold today, in words; none when it holds, or when no single one is enough. */
export async function whatHelps({ id: personId }: Pick<Actor, "id">, now: Date): Promise<string[]> {
  const clock = await firmDay(now);
  const day = await findDay(personId, clock.on);
  if (!day?.plan || day.status === "ended") return [];
  const live = day.status === "started" ? now : null;
  const { problem, duties, sites } = await buildDay(notBefore(day, clock, now), await eventsOf(day.id), live);
  const how = { chance: await firmChance(), spread: spreadsOf(duties) };
  const changes = await search("suggestChanges", problem, day.plan, how);
  return changes.map((change) =>
    changeInWords(change, {
      job: (id) => {
        const duty = duties.find((one) => one.dutyId === id);
        return duty ? `${duty.title}, ${duty.machineName},` : "a duty";
      },
      site: (id) => sites.find((one) => one.id === id)?.name ?? "a site",
    }),
  );
}
