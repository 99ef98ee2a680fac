import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { requireFinite, requireNotNegative, requirePositiveWhole } from "../numbers";
import type { WeekProblem } from "./types";

/** @throws CoreError for a malformed week, naming the field */
export function requireWeek(problem: WeekProblem): void {
  const { people, sites, duties, travel, days } = requireRecord(problem, "problem");
  requirePositiveWhole(days, "days");
  const known = new Set(
    requireList(sites, "sites").map((site, i) => {
      const path = `sites[${i}]`;
      requireNotNegative(requireRecord(site, path).overhead, `${path}.overhead`);
      requireText(site.id, `${path}.id`);
      requireDays(site.open, days, `${path}.open`);
      return site.id;
    }),
  );
  if (known.size !== sites.length) throw new CoreError("bad-value", "sites", "A site is listed twice.");
  const size = sites.length + 1;
  if (requireList(travel, "travel").length !== size || travel.some((row) => !Array.isArray(row) || row.length !== size))
    throw new CoreError(
      "bad-value",
      "travel",
      `For ${sites.length} sites travel needs ${size} rows of ${size} minutes, the depot first.`,
    );
  travel.forEach((row, i) => row.forEach((minutes, k) => requireNotNegative(minutes, `travel[${i}][${k}]`)));
  requireList(duties, "duties").forEach((duty, i) => {
    const path = `duties[${i}]`;
    if (!known.has(requireRecord(duty, path).site))
      throw new CoreError("unknown-reference", `${path}.site`, `There is no site ${duty.site}.`);
    requireText(duty.id, `${path}.id`);
    requireNotNegative(duty.hands, `${path}.hands`);
    requireNotNegative(duty.longest, `${path}.longest`);
    requireNotNegative(duty.value, `${path}.value`);
    requireFinite(duty.due, `${path}.due`);
    if ((duty.people as string[] | null | undefined) != null) requireList(duty.people ?? [], `${path}.people`);
  });
  requireList(people, "people").forEach((person, i) => {
    const path = `people[${i}]`;
    requireText(requireRecord(person, path).id, `${path}.id`);
    requireDays(person.minutes, days, `${path}.minutes`);
    if ((person.sites as string[] | null | undefined) != null) requireList(person.sites ?? [], `${path}.sites`);
  });
}

/** Minutes for each day of the week. */
function requireDays(minutes: number[], days: number, path: string): void {
  if (requireList(minutes, path).length !== days)
    throw new CoreError("bad-value", path, `Give minutes for each of the ${days} days.`);
  minutes.forEach((one, day) => requireNotNegative(one, `${path}[${day}]`));
}
