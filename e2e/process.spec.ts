import { expect } from "@playwright/test";

import { must } from "../core/must";
import { freePort, sleep } from "../scripts/lib/system.mjs";
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

test("a process is seen from outside: its metrics at a port of their own, its requests by their ids", async ({
  request,
}) => {
  const port = await freePort(17490);
  const app = await startApp({ HOUND_DEMO: "1", METRICS_PORT: String(port), DB_SLOW_MS: "0" });
  await untilReady(app.url);
  const answer = await request.get(`${app.url}/sign-in`, { headers: { "X-Request-Id": "asked-by-a-proxy" } });
  expect(answer.headers()["x-request-id"]).toBe("asked-by-a-proxy");
  const other = await request.get(`${app.url}/sign-in`, { headers: { "X-Request-Id": "<script>" } });
  expect(other.headers()["x-request-id"]).toMatch(/^[0-9a-f-]{36}$/);
  const told = await (await fetch(`http://127.0.0.1:${port}/metrics`)).text();
  expect(told).toContain('hound_request_seconds_count{method="GET",route="/sign-in",status="200"} 2');
  expect(told).toMatch(/^hound_duties\{state="active"\} [1-9]\d*$/m);
  expect(told).toContain("hound_state_of_work_known 1");
  // Not for who comes in by the front.
  expect(await (await request.get(`${app.url}/metrics`)).text()).not.toContain("hound_request_seconds");
  await request.post(`${app.url}/sign-in`, {
    form: { signIn: "mira", password: "wrong" },
    headers: { Origin: app.url, "X-Request-Id": "slow-statement-1" },
  });
  app.child.kill("SIGTERM");
  expect(await app.exited).toBe(0);
  const lines = app
    .output()
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as { requestId?: string; msg: string; sql?: string; req?: { id: string } });
  expect(lines.some((line) => line.req?.id === "asked-by-a-proxy")).toBe(true);
  const slow = lines.filter((line) => line.msg === "slow statement" && line.requestId === "slow-statement-1");
  expect(slow.length).toBeGreaterThan(0);
  expect(slow.map((line) => line.sql).join()).not.toContain("mira");
});
