/**
 * `npm run lint`: the rules of eslint.config.js, which stays the one list of them, worked by a linter that asks the
 * native compiler for types: in a tenth of the time. What it knows no rule for is an error, so that none is lost;
 * `npm run lint -- --fix` mends what can be mended, and `npx eslint .` finds the same, slowly.
 */
import { spawn } from "node:child_process";
import { writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

import translate from "@oxlint/migrate";

import rules from "../eslint.config.js";

/** In the root: its patterns are read from where it stands. */
const FILE = ".oxlintrc.json";
/** What the parser refuses by itself in a module, the plugin's check of its own settings, and two switched off by hand. */
const NEEDLESS = new Set([
  "no-dupe-args",
  "no-octal",
  "react-hooks/config",
  "react-hooks/gating",
  "@typescript-eslint/no-unsafe-class-instance-assignment",
  "@typescript-eslint/no-unsafe-enum-assignment",
]);

process.chdir(fileURLToPath(new URL("..", import.meta.url)));
const lost = new Set();
const reporter = {
  addWarning: () => undefined,
  getWarnings: () => [],
  markSkipped: (rule) => lost.add(rule),
  removeSkipped: (rule) => lost.delete(rule),
  getSkippedRulesByCategory: () => ({}),
};
const settings = await translate(rules, undefined, { reporter, typeAware: true, withNursery: true, jsPlugins: true });
const unknown = [...lost].filter((rule) => !NEEDLESS.has(rule));
if (unknown.length > 0) {
  console.error(
    `The linter has no rule like ${unknown.join(", ")}: take it out of eslint.config.js, or check it otherwise.`,
  );
  process.exit(1);
}
writeFileSync(FILE, `${JSON.stringify(settings, null, 2)}\n`);
const linter = [fileURLToPath(new URL("../node_modules/oxlint/bin/oxlint", import.meta.url))];
const child = spawn(process.execPath, [...linter, "--deny-warnings", ...process.argv.slice(2)], { stdio: "inherit" });
child.on("close", (code) => process.exit(code ?? 1));
