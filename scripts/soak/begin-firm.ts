import { v7 as uuidv7 } from "uuid";

import type { Actor } from "../../app/kit/actor";
import { applyImport, checkImport, claimImport } from "../../app/machines/register/imports.server";
import { hashPassword } from "../../app/people/passwords.server";
import {
  getProcedure,
  publishProcedures,
  readProcedureFiles,
  shippedFolder,
} from "../../app/procedures/procedures.server";
import { addPlace } from "../../app/stores/ledger/places.server";
import { must } from "../../core/must";
import { type Db, migrate } from "../../db/index";

export const PASSWORD = "soak password one";
export const PROCEDURE = "ride-on-scrubber-brushes";
export type Firm = Awaited<ReturnType<typeof beginFirm>>;

/** So many technicians with a machine and a van each, and a lead with a depot. */
export async function beginFirm(db: Db, count: number, now = new Date()) {
  await migrate(db.sequelize);
  await publishProcedures(readProcedureFiles(shippedFolder()), now);
  const passwordHash = await hashPassword(PASSWORD);
  const person = async (name: string, role: "lead" | "technician"): Promise<Actor> => {
    const id = uuidv7();
    const row = { id, name, signIn: name, passwordHash, role, active: true, mustChangePassword: false, demo: false };
    await db.models.Person.create({ ...row, createdAt: now });
    return { id, name, role, authorisations: [] };
  };
  const lead = await person("lead", "lead");
  const people: Actor[] = [];
  for (let i = 0; i < count; i++) people.push(await person(`technician${i}`, "technician"));
  const lines = people.map((_, i) => `Co,Site ${i % 5},Europe/Lisbon,C-${i},Machine ${i},ride-on-scrubber`);
  const file = ["customer,site,time_zone,tag,name,family", ...lines].join("\n");
  const importId = await checkImport(lead, "soak.csv", file, now);
  await claimImport(importId, now);
  await applyImport(importId, now);
  const duties: { id: string; machineId: string }[] = [];
  for (const [i, one] of people.entries()) {
    const [duty] = await db.select<{ id: string; machineId: string }>(
      "SELECT d.id, d.machine_id AS machineId FROM duties d JOIN machines m ON m.id = d.machine_id WHERE m.tag = :tag AND d.procedure_id = :procedure",
      { tag: `C-${i}`, procedure: PROCEDURE },
    );
    duties.push(must(duty));
    await addPlace(lead, { kind: "van", name: `Van ${i}`, personId: one.id, siteId: null }, now);
  }
  const depot = await addPlace(lead, { kind: "depot", name: "Depot", personId: null, siteId: null }, now);
  return { lead, people, duties, depot, procedure: await getProcedure(PROCEDURE) };
}
