import type { Db } from "./connect";

/** Deletes every row but the record of migrations: for a fresh demo and for tests. */
export async function emptyTables(db: Db): Promise<void> {
  const tables = await db.select<{ name: string }>(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name <> 'migrations'",
  );
  await db.sequelize.transaction(async (tx) => {
    await db.run("SET foreign_key_checks = 0", {}, tx);
    for (const { name } of tables) await db.run(`DELETE FROM \`${name}\``, {}, tx);
    await db.run("SET foreign_key_checks = 1", {}, tx);
  });
}
