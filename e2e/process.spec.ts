import { spawn } from "node:child_process";

import { must } from "../core/must";
import { freePort, sleep } from "../scripts/lib/system.mjs";
import { expect, test } from "./helpers/test";

/** The app's process, over the same database as the other browser tests: several processes over one database is normal. */
async function startApp(env: Record<string, string>) {
  const port = await freePort(7490);
  const child = spawn(process.execPath, ["server.js"], {
    env: { ...process.env, PORT: String(port), LOG_LEVEL: "info", ...env },
  });
  let output = "";
  child.stdout.on("data", (chunk: Buffer) => (output += chunk.toString()));
  child.stderr.on("data", (chunk: Buffer) => (output += chunk.toString()));
  const exited = new Promise<number | null>((resolve) => child.once("exit", resolve));
  return { child, exited, url: `http://127.0.0.1:${port}`, output: () => output };
}

async function untilHealthy(url: string): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const ok = await fetch(`${url}/readyz`).then(
      (response) => response.ok,
      () => false,
    );
    if (ok) return;
    await sleep(100);
  }
  throw new Error("the app did not come up");
}

test("production refuses to start with demo accounts, and says which", async () => {
  const app = await startApp({ HOUND_DEMO: "0" });
  expect(await app.exited).toBe(1);
  expect(app.output()).toMatch(/Demo accounts with published passwords are active \(.*mira.*\)/);
});

test("a second process serves the same sessions; SIGTERM ends it cleanly, the first goes on", async ({
  page,
  baseURL,
}) => {
  await page.goto("/sign-in");
  await page.getByLabel("Sign-in name").fill("mira");
  await page.getByLabel("Password").fill("harbour-demo-1");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page).toHaveURL(/\/round$/);
  const [cookie] = (await page.context().cookies()).filter((one) => one.name === "hound_session");

  const second = await startApp({ HOUND_DEMO: "1" });
  await untilHealthy(second.url);
  const headers = { cookie: `${must(cookie).name}=${must(cookie).value}` };
  // A request under way when the signal comes is finished.
  const running = fetch(`${second.url}/round`, { headers });
  await sleep(20);
  second.child.kill("SIGTERM");
  expect((await running).status).toBe(200);
  expect(await second.exited).toBe(0);
  expect(second.output()).toContain("stopping: no new requests");
  expect(second.output()).not.toContain(must(cookie).value);
  for (const line of second.output().trim().split("\n")) expect(() => JSON.parse(line) as unknown).not.toThrow();
  expect((await page.request.get(`${baseURL}/round`)).status()).toBe(200);
});
