/** Makes the first lead of an empty production database: npm run add-lead -- "Name" sign.in */
import { randomBytes } from "node:crypto";

import { v7 as uuidv7 } from "uuid";

import { hashPassword } from "../app/people/passwords.server";
import { addPersonSchema } from "../app/people/people-schemas";
import { must } from "../core/must";
import { getDb } from "../db/index";

const [name, signIn] = process.argv.slice(2);
const password = randomBytes(12).toString("base64url");
try {
  addPersonSchema.validateSync({ intent: "add", name, signIn, role: "lead", password });
  const db = getDb();
  try {
    const leads = await db.models.Person.count({ where: { role: "lead", active: true } });
    if (leads > 0) throw new Error("There is a lead already. They add people under Book, People.");
    await db.models.Person.create({
      id: uuidv7(),
      name: must(name),
      signIn: must(signIn).toLowerCase(),
      passwordHash: await hashPassword(password),
      role: "lead",
      active: true,
      mustChangePassword: true,
      demo: false,
      createdAt: new Date(),
    });
    process.stdout.write(`${name} signs in as ${signIn} with the first password ${password}\n`);
  } finally {
    await db.close();
  }
} catch (error) {
  process.stderr.write(`${(error as Error).message}\nUse: npm run add-lead -- "Name" sign.in\n`);
  process.exitCode = 1;
}
