import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, symlinkSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";

const git = (...args: string[]): string => execFileSync("git", args, { encoding: "utf8" }).trim();

/**
 * The app as it was before the schema's last change, built in a folder of its own.
 * @returns the folder and the version, or null where the history is not there
 */
export function buildBefore(): { folder: string; build: string; version: string; remove: () => void } | null {
  let version: string;
  try {
    const changed = git("log", "-1", "--format=%H", "--diff-filter=A", "--", "db/migrations");
    version = git("rev-parse", "--short", `${changed}^`);
  } catch {
    return null;
  }
  const around = mkdtempSync(join(tmpdir(), "hound-before-"));
  const folder = join(around, "app");
  git("worktree", "add", "--quiet", "--detach", folder, version);
  // With other packages it installs its own: what is installed through a link would take the place of ours.
  const lock = (of: string): string => readFileSync(join(of, "package-lock.json"), "utf8");
  if (lock(folder) === lock(".")) symlinkSync(resolve("node_modules"), join(folder, "node_modules"));
  execFileSync(process.execPath, ["scripts/build.mjs"], { cwd: folder, stdio: ["ignore", "ignore", "inherit"] });
  const build = resolve(folder, readFileSync(join(folder, "build/latest"), "utf8").trim());
  const remove = (): void => {
    git("worktree", "remove", "--force", folder);
    rmSync(around, { recursive: true });
  };
  return { folder, build, version, remove };
}
