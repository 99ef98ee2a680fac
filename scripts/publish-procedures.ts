/** Publishes the procedures and fault guides that ship with the app; versions that are there already stay as they are. */
import { publishShipped } from "../app/procedures/guides/guides.server";
import { getDb } from "../db/index";

const { procedures, guides } = await publishShipped(new Date());
const added = [...procedures, ...guides.map((family) => `faults of ${family}`)];
process.stdout.write(added.length === 0 ? "All of them are published already.\n" : `Published: ${added.join(", ")}.\n`);
await getDb().close();
