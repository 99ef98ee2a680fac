import { must, type Position, roadMinutes, type Timetable } from "@core";
import { getDb } from "@db";
import * as yup from "yup";

import { logError } from "~/kit/server/log.server";

export interface Place {
  id: string;
  name: string;
  latitude: number | null;
  longitude: number | null;
}

export interface TravelTable {
  /** Minutes from row to column, in the order of the places asked for. */
  minutes: number[][];
  /** `from` and `to` are places in that order. */
  timetables: Timetable[];
  /** What is not known well, in sentences. */
  notes: string[];
}

/** Factor from the direct way to the road, and mean speed with stops, when no road service answers (common practice). */
const DETOUR_FACTOR = 1.4;
const KM_PER_HOUR = 40;
/** Between places of which the position is not known. */
const UNKNOWN_MINUTES = 20;
const ANSWER_MS = 2500;

const tableSchema = yup.object({
  minutes: yup.array(yup.array(yup.number().min(0).max(2880).required()).required()).required(),
  ferries: yup
    .array(
      yup
        .object({
          from: yup.number().integer().min(0).required(),
          to: yup.number().integer().min(0).required(),
          departures: yup.array(yup.number().min(0).max(2880).required()).min(1).max(200).required(),
          minutes: yup.number().min(0).max(2880).required(),
        })
        .required(),
    )
    .required(),
});

/**
 * Minutes between places: the firm's own figures first, then the road service of the server's configuration with its
 * ferries, then the great circle. A service that does not answer costs a note, never the plan.
 */
export async function travelBetween(places: readonly Place[]): Promise<TravelTable> {
  const notes: string[] = [];
  const known = places.map((place) =>
    place.latitude !== null && place.longitude !== null
      ? { latitude: place.latitude, longitude: place.longitude }
      : null,
  );
  const service = await askRoads(known, notes);
  const minutes = places.map((_, i) =>
    places.map((_place, k) => {
      if (i === k) return 0;
      const [a, b] = [known[i], known[k]];
      return service?.minutes[i]?.[k] ?? (a && b ? roadMinutes(a, b, DETOUR_FACTOR, KM_PER_HOUR) : UNKNOWN_MINUTES);
    }),
  );
  let timetables = service?.timetables ?? [];
  const own =
    places.length < 2
      ? []
      : await getDb().models.TravelMinutes.findAll({
          attributes: ["fromPlace", "toPlace", "minutes"],
          where: { fromPlace: places.map((place) => place.id), toPlace: places.map((place) => place.id) },
          raw: true,
        });
  const index = new Map(places.map((place, i) => [place.id, i]));
  for (const row of own) {
    const [from, to] = [must(index.get(row.fromPlace)), must(index.get(row.toPlace))];
    must(minutes[from])[to] = row.minutes;
    timetables = timetables.filter((one) => one.from !== from || one.to !== to);
  }
  const lost = places.filter((_, i) => known[i] === null).map((place) => place.name);
  if (lost.length > 0)
    notes.push(`No position is known for ${lost.join(", ")}: ${UNKNOWN_MINUTES} minutes are taken for each way there.`);
  return { minutes, timetables, notes };
}

async function askRoads(
  positions: readonly (Position | null)[],
  notes: string[],
): Promise<{ minutes: (number | undefined)[][]; timetables: Timetable[] } | null> {
  const url = process.env.ROADS_URL;
  const at = positions.flatMap((position, i) => (position ? [i] : []));
  if (!url || at.length < 2) return null;
  try {
    const response = await fetch(`${url}/table`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ points: at.map((i) => positions[i]) }),
      signal: AbortSignal.timeout(ANSWER_MS),
    });
    if (!response.ok) throw new Error(`answered ${response.status}`);
    const table = await tableSchema.validate(await response.json(), { strict: true });
    if (table.minutes.length !== at.length || table.minutes.some((row) => row.length !== at.length))
      throw new Error("answered with a table of another size");
    const minutes: (number | undefined)[][] = positions.map(() => positions.map(() => undefined));
    at.forEach((i, a) => at.forEach((k, b) => (must(minutes[i])[k] = must(table.minutes[a])[b])));
    const timetables = table.ferries
      .filter((ferry) => ferry.from < at.length && ferry.to < at.length)
      .map((ferry) => ({ ...ferry, from: must(at[ferry.from]), to: must(at[ferry.to]) }));
    return { minutes, timetables };
  } catch (error) {
    logError(`Road service: ${(error as Error).message}`);
    notes.push("The road service does not answer: minutes are by the direct way and a detour factor, without ferries.");
    return null;
  }
}
