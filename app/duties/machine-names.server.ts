import type { Trigger } from "@core";
import { getDb, Op } from "@db";

import { Refusal } from "~/kit/refusal";
import { newestProcedures } from "~/procedures/procedures.server";

import { CALLED_OUT, LEFT_OPEN } from "./general-procedures";
import * as sql from "./machine-names.sql";

/** What a machine's own procedures and logs call things: for setting up rules. */
export async function getMachineNames(machineId: string): Promise<{
  machineName: string;
  family: string;
  meters: { id: string; name: string; unit: string }[];
  readings: string[];
  events: string[];
}> {
  const db = getDb();
  const [machine] = await db.models.Machine.findAll({
    attributes: ["name", "family"],
    where: { id: machineId },
    raw: true,
  });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  const own = (
    await db.models.MachineMeter.findAll({
      attributes: ["meter", "name", "unit"],
      where: { machineId, basis: { [Op.ne]: "light" } },
      order: ["name"],
      raw: true,
    })
  ).map(({ meter, name, unit }) => ({ id: meter, name, unit }));
  const procedures = await newestProcedures([machine.family]);
  const meters = new Map(
    [...procedures.flatMap((procedure) => procedure.meters), ...own].map((meter) => [meter.id, meter]),
  );
  const readings = new Set(
    procedures
      .flatMap((procedure) => procedure.steps)
      .flatMap((step) => (step.kind === "measure" && !step.meter ? [step.reading] : [])),
  );
  const logged = await sql.namesUsed({ machineId });
  const planned = await db.models.Duty.findAll({ attributes: ["rules"], where: { machineId }, raw: true });
  const events = new Set([
    ...procedures.flatMap((procedure) => procedure.plan.triggers).flatMap(entryOf),
    ...planned.flatMap(({ rules }) => [
      ...rules.triggers.flatMap(entryOf),
      ...(rules.emits ?? []).map((one) => one.event),
    ]),
    ...logged.map((row) => row.event),
  ]);
  // The app logs these itself.
  for (const own of [LEFT_OPEN, CALLED_OUT]) events.delete(own);
  return {
    machineName: machine.name,
    family: machine.family,
    meters: [...meters.values()],
    readings: [...readings].sort(),
    events: [...events].sort(),
  };
}

export const entryOf = (trigger: Trigger): string[] => (trigger.kind === "event" ? [trigger.event] : []);
