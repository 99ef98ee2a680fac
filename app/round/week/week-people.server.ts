import { getDb } from "@db";

import type { Actor } from "~/kit/actor";

import type { WeekPerson } from "./week.server";

/** People with what they are authorised for. */
export async function actorsOf(people: readonly WeekPerson[]): Promise<Map<string, Actor>> {
  const rows =
    people.length === 0
      ? []
      : await getDb().models.Authorisation.findAll({
          attributes: ["personId", "kind", "expiresOn"],
          where: { personId: people.map((person) => person.id), revokedAt: null },
          raw: true,
        });
  return new Map(
    people.map(({ id, name }) => [
      id,
      { id, name, role: "technician", authorisations: rows.filter((row) => row.personId === id) },
    ]),
  );
}
