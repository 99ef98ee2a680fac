import { getDb, Op } from "@db";

import type { Actor } from "~/kit/actor";
import { depotPlace } from "~/kit/days/depot.server";
import { publishShipped } from "~/procedures/guides/guides.server";

/** How far a firm is that begins with nothing. */
export interface FirstSteps {
  procedures: number;
  depot: string | null;
  sites: number;
  machines: number;
  /** The machine that was added last, when something is owed on it. */
  owing: { id: string; name: string } | null;
  people: number;
  /** The duty that comes first, for the first sheet. */
  next: { id: string; title: string; machine: string } | null;
  signed: boolean;
}

/** Whether a record was signed: from then on nobody needs to be told how to begin. */
export async function anySigned(): Promise<boolean> {
  return (await getDb().models.Sheet.findOne({ attributes: ["id"], where: { status: "signed" }, raw: true })) !== null;
}

export async function firstSteps(): Promise<FirstSteps> {
  const { models } = getDb();
  const [procedures, depot, sites, machines, people, next, signed] = await Promise.all([
    models.Procedure.count(),
    depotPlace(),
    models.Site.count(),
    models.Machine.count({ where: { retiredOn: null } }),
    models.Person.count({ where: { active: true } }),
    models.Duty.findOne({
      attributes: ["id", "title", "machineId"],
      where: { active: true, who: { [Op.ne]: "operator" }, dueOn: { [Op.ne]: null } },
      order: ["dueOn", "id"],
      raw: true,
    }),
    anySigned(),
  ]);
  const machineOf = (id: string) => models.Machine.findByPk(id, { attributes: ["id", "name"], raw: true });
  const latest = await models.Duty.findOne({ attributes: ["machineId"], order: [["id", "DESC"]], raw: true });
  const owing = latest && (await machineOf(latest.machineId));
  const machine = next && (await machineOf(next.machineId));
  return {
    procedures,
    depot: depot?.name ?? null,
    sites,
    machines,
    owing,
    people,
    next: next && machine && { id: next.id, title: next.title, machine: machine.name },
    signed,
  };
}

/** Publishes the procedures that ship with the app: what is there already stays as it is. */
export async function loadLibrary(actor: Actor, now: Date): Promise<number> {
  const why = "Shipped with the app";
  return (await publishShipped(now, { actor, why })).procedures.length;
}
