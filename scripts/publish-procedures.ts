/** Publishes the procedures that ship with the app; versions that are there already stay as they are. */
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { getDb } from "../db/index";

const added = await publishProcedures(readProcedureFiles(shippedFolder()), new Date());
process.stdout.write(
  added.length === 0 ? "All procedures are published already.\n" : `Published: ${added.join(", ")}.\n`,
);
await getDb().close();
