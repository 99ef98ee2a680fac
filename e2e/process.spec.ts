import { expect } from "@playwright/test";

import { must } from "../core/must";
import { sleep } from "../scripts/lib/system.mjs";
import { startApp, untilReady } from "./helpers/own-app";
import { test } from "./helpers/test";

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
  await untilReady(second.url);
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
