import { must } from "@core";
import { emptyTables, getDb, migrate, type Role } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { applyImport, checkImport, claimImport } from "~/machines/register/imports.server";
import { hashPassword } from "~/people/passwords.server";
import { publishProcedures, readProcedureFiles, shippedFolder } from "~/procedures/procedures.server";

import { EARLIER } from "../../core/sheet/testing/shipped";

/** A migrated, empty database: every suite begins with one. */
export async function freshDatabase(): Promise<void> {
  const db = getDb();
  await migrate(db.sequelize);
  await emptyTables(db);
}

export async function closeDatabase(): Promise<void> {
  await getDb().close();
}

let passwordHash: Promise<string> | null = null;
export const TEST_PASSWORD = "test password one";

export async function addActor(name: string, role: Role = "technician"): Promise<Actor> {
  passwordHash ??= hashPassword(TEST_PASSWORD);
  const id = uuidv7();
  await getDb().models.Person.create({
    id,
    name,
    signIn: name.toLowerCase(),
    passwordHash: await passwordHash,
    role,
    active: true,
    mustChangePassword: false,
    demo: false,
    createdAt: new Date(),
  });
  return { id, name, role, authorisations: [] };
}

export const HEADER =
  "customer,site,address,time_zone,water_hardness_mg_l,access_hours,area,tag,name,family,options,duties_from";

/** Imports machines from CSV lines under {@link HEADER}. */
export async function importLines(actor: Actor, lines: string[], now: Date): Promise<string> {
  const id = await checkImport(actor, "test.csv", [HEADER, ...lines].join("\n"), now);
  if (!(await claimImport(id, now))) throw new Error("not claimed");
  await applyImport(id, now);
  return id;
}

/** A few procedures as an earlier version has them, so that a machine has a number of duties that can be counted on. */
const FEW = [
  "flake-ice-maker-clean-sanitise",
  "own-duty",
  "ride-on-sweeper-daily",
  "slide-stainer-50-runs",
  "slide-stainer-chambers",
  "slide-stainer-weekly",
  "wide-format-printer-periodic",
];

/** Publishes procedures: a few of an earlier version, or all that are shipped. */
export async function publishShipped(which: "few" | "all" = "few"): Promise<void> {
  const found = readProcedureFiles(which === "all" ? shippedFolder() : EARLIER);
  await publishProcedures(which === "all" ? found : found.filter((one) => FEW.includes(one.id)), new Date());
}

export async function dutyOf(tag: string, procedureId: string): Promise<string> {
  const [row] = await getDb().select<{ id: string }>(
    "SELECT p.id FROM duties p JOIN machines m ON m.id = p.machine_id WHERE m.tag = :tag AND p.procedure_id = :procedureId",
    { tag, procedureId },
  );
  return must(row).id;
}
