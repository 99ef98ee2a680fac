import { getDb, pendingMigrations, readHosts } from "@db";

const WEAK = new Set(["", "password", "secret", "hound", "root", "admin", "changeme"]);

/** Reasons why this process must not serve, each with what to do. [] when it may. */
export async function reasonsNotToStart(env: NodeJS.ProcessEnv): Promise<string[]> {
  const reasons: string[] = [];
  const demo = env.HOUND_DEMO === "1";
  const { url } = readHosts(env.DATABASE_URL ?? "");
  const password = URL.canParse(url) ? decodeURIComponent(new URL(url).password) : "";
  if (!demo && WEAK.has(password))
    reasons.push("DATABASE_URL has no password or a default one. Give the database user a password of its own.");
  const pending = await pendingMigrations(getDb().sequelize);
  if (pending.length > 0) return [...reasons, `The schema is behind (${pending.join(", ")}). Run: npm run migrate`];
  if (!demo) {
    const accounts = await getDb().models.Person.findAll({
      attributes: ["signIn"],
      where: { demo: true, active: true },
      limit: 5,
      raw: true,
    });
    if (accounts.length > 0) {
      reasons.push(
        `Demo accounts with published passwords are active (${accounts.map((one) => one.signIn).join(", ")}). Deactivate them or set new passwords; only a demo may run with them.`,
      );
    }
  }
  return reasons;
}
