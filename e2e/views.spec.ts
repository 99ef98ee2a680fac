import { expect, type Page } from "@playwright/test";

import { must } from "../core/must";
import {
  expectAccessible,
  expectNothingSideways,
  logMeter,
  makeSafe,
  openSheet,
  PARKED,
  signIn,
  step,
  tap,
  waitUntilReady,
} from "./helpers/app";
import { test } from "./helpers/test";

/** Those that a day is worked with: looked at in the dark and on a phone in every run. */
const WORKED_WITH = ["/round", "/ahead", "/machines", "/stores", "/stores/items", "/book", "/book/people"];
const OTHERS = [
  "/round/before",
  "/round/evening",
  "/ahead?as=table",
  "/ahead/workload",
  "/calendars",
  "/sites",
  "/sites/new",
  "/machines/new",
  "/machines?state=taken-out",
  "/machines/readings",
  "/machines/gateway",
  "/machines/change",
  "/machines?q=nothing-like-this",
  "/machines/import",
  "/machines/faults",
  "/machines/faults/recirculating-chiller",
  "/machines/practice",
  "/practice/prep-cabinet-faults",
  "/book/procedures",
  "/book/procedures?q=nothing-like-this",
  "/book/procedures/recirculating-chiller-strainer",
  "/book/procedures/ride-on-sweeper-daily",
  "/book/procedures/ride-on-sweeper-daily/paper",
  "/book/procedures/ride-on-sweeper-daily/compare?from=2&to=2",
  "/practice/slide-stainer-chambers",
  "/book?with=any&q=cracked",
  "/book?machine=nothing-like-this",
  "/book/bundles",
  "/book/instruments",
  "/book/bench",
  "/book/bench?tool=dilution",
  "/book/bench?tool=compatibility",
  "/book/bench?tool=tightening",
  "/book/bench?tool=battery",
  "/book/bench?tool=control-chart",
  "/password",
  "/no-such-place",
];
const SIZES = {
  laptop: { width: 1280, height: 800 },
  phone: { width: 390, height: 844 },
  tablet: { width: 820, height: 1180 },
};

async function accessibleInLight(page: Page): Promise<void> {
  await expectAccessible(page, "all");
}

/** The structure is the same in both themes: the dark one is looked at for what it can change. */
async function accessibleInBoth(page: Page): Promise<void> {
  await expectAccessible(page, "all");
  await page.emulateMedia({ colorScheme: "dark" });
  await expectAccessible(page, "colours");
  await page.emulateMedia({ colorScheme: "light" });
}

test("axe finds nothing on any view, nor in the dark and on a phone on those a day is worked with", async ({
  page,
}) => {
  await startAtTheDoor(page);
  await axeOn(page, WORKED_WITH, [
    ["laptop", accessibleInBoth],
    ["phone", accessibleInLight],
    // Between the two others in width, with the structure of one of them.
    ["tablet", expectNothingSideways],
  ]);
  await axeOn(page, OTHERS, [
    ["laptop", accessibleInLight],
    ["phone", expectNothingSideways],
  ]);
  await axeOnTheWayIn(page, accessibleInLight);
});

test("axe finds nothing on any view, in both themes, on a laptop and on a phone @soak", async ({ page }) => {
  await startAtTheDoor(page);
  await axeOn(
    page,
    [...WORKED_WITH, ...OTHERS],
    [
      ["laptop", accessibleInBoth],
      ["phone", accessibleInBoth],
      ["tablet", expectNothingSideways],
    ],
  );
  await axeOnTheWayIn(page, accessibleInBoth);
});

/** Each view once, then its window made narrower: what is told apart by width is told apart anew. */
async function axeOn(
  page: Page,
  views: string[],
  sizes: [size: keyof typeof SIZES, accessible: (page: Page) => Promise<void>][],
): Promise<void> {
  for (const view of views)
    await test.step(view, async () => {
      await page.setViewportSize(SIZES.laptop);
      await page.goto(view);
      await waitUntilReady(page);
      for (const [size, accessible] of sizes)
        await test.step(size, async () => {
          await page.setViewportSize(SIZES[size]);
          await accessible(page);
        });
    });
  await page.setViewportSize(SIZES.laptop);
}

async function startAtTheDoor(page: Page): Promise<void> {
  // Some eighty pages, each searched whole: minutes on a slow machine.
  test.setTimeout(1_200_000);
  await page.emulateMedia({ colorScheme: "light" });
  await page.goto("/sign-in");
  await waitUntilReady(page);
  await accessibleInBoth(page);
  await tap(page, "Sign in");
  await expect(page.getByText("Type your sign-in name.")).toBeVisible();
  await accessibleInBoth(page);
  await signIn(page, "jonas");
}

/** What is reached from another page: a machine, its trail, an operator's page, a site, a record, a sheet. */
async function axeOnTheWayIn(page: Page, accessible: (page: Page) => Promise<void>): Promise<void> {
  await page.setViewportSize(SIZES.laptop);
  await page.goto("/machines?q=HH-7001");
  await page.getByRole("link", { name: "Slide stainer clinic" }).click();
  await expect(page.getByRole("heading", { name: "Duties" })).toBeVisible();
  await accessible(page);
  for (const link of ["Trail", "Set up"]) {
    await page.goto("/t/HH-7001");
    await page.getByRole("link", { name: link, exact: true }).click();
    await expect(
      page.getByRole("heading", { name: link === "Trail" ? /^Trail of/ : "Set up the machine" }),
    ).toBeVisible();
    await accessible(page);
  }
  await page.getByRole("button", { name: "Make a link" }).click();
  const operatorPage = await page.getByLabel("Address of the operator's page").inputValue();
  await page.goto(operatorPage);
  await accessible(page);
  await page.goto("/t/HH-7001");
  await page.getByRole("link", { name: "Weekly clean: modules, deck, stations, probes" }).first().click();
  await page.getByRole("link", { name: "Change the rules" }).click();
  await expect(page.getByRole("heading", { name: "When this duty comes due" })).toBeVisible();
  await accessible(page);
  await page.goto("/sites?q=Research");
  await page.getByRole("link", { name: "Research station" }).click();
  await expect(page.getByRole("heading", { name: "Closed days" })).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "Change", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Change the site" })).toBeVisible();
  await accessible(page);
  await page.goto("/book");
  await page.getByRole("link", { name: "Chambers and modules after a run" }).first().click();
  await expect(page.getByRole("heading", { name: "Steps" })).toBeVisible();
  await accessible(page);

  for (const viewport of [SIZES.phone, SIZES.laptop]) {
    await page.setViewportSize(viewport);
    await openSheet(page, "HH-7001", "Weekly clean: modules, deck, stations, probes");
    await accessibleInBoth(page);
    await page.getByRole("button", { name: "Note" }).click();
    await expect(page.getByRole("dialog")).toBeVisible();
    await accessibleInBoth(page);
    await page.keyboard.press("Escape");
    if (viewport === SIZES.phone) {
      await page.getByRole("button", { name: /steps/ }).click();
      await accessibleInBoth(page);
    }
  }
  await page.getByRole("link", { name: "To the signatures" }).click();
  await expect(page.getByRole("heading", { name: /^Sign:/ })).toBeVisible();
  await accessibleInBoth(page);
}

test("the measure step, its ruler and its advice are accessible too", async ({ page }) => {
  await signIn(page);
  await openSheet(page, "HH-2001", "Walk-round and brooms");
  await step(page, "Read the hour meter");
  await page.getByLabel("Reading").fill("12x");
  await expect(page.getByText("This is no figure")).toBeVisible();
  await expectAccessible(page);
  await logMeter(page);
  await tap(page, "As it should be");
  await step(page, "Battery gauge, lamps");
  await tap(page, "As it should be");
  await makeSafe(page, PARKED);
  await tap(page, "As it should be");
  await page.getByLabel("Left", { exact: true }).fill("1.5");
  await expectAccessible(page);
});

test("what is for leads is closed to technicians, and everything to strangers", async ({ page, request, baseURL }) => {
  await page.goto("/book/people");
  await expect(page).toHaveURL(/\/sign-in\?next=%2Fbook%2Fpeople/);
  await signIn(page, "mira");
  for (const closed of ["/book/people", "/machines/import"]) {
    const response = await page.goto(closed);
    expect(must(response).status()).toBe(403);
    await expect(page.getByText("This is for leads.")).toBeVisible();
  }
  expect(must(await page.goto("/no-such-place")).status()).toBe(404);

  const entries = "/api/sheets/0190a000-0000-7000-8000-000000000001/entries";
  expect((await request.get(entries)).status()).toBe(401);
  expect((await request.post(entries, { data: { entries: [] } })).status()).toBe(403); // says neither origin nor site
  expect(
    (await request.post(entries, { data: { entries: [] }, headers: { Origin: "https://elsewhere.example" } })).status(),
  ).toBe(403);
  expect((await request.post(entries, { data: { entries: [] }, headers: { Origin: must(baseURL) } })).status()).toBe(
    401,
  );
  const own = await page.request.post(entries, { data: { entries: [] }, headers: { Origin: must(baseURL) } });
  expect(own.status()).toBe(404);
  expect(
    (
      await page.request.post(entries, {
        data: "x".repeat(300 * 1024),
        headers: { Origin: must(baseURL), "Content-Type": "application/json" },
      })
    ).status(),
  ).toBe(413);
  expect(
    (
      await page.request.post(entries, {
        data: Buffer.from("{"),
        headers: { Origin: must(baseURL), "Content-Type": "application/json" },
      })
    ).status(),
  ).toBe(400);
  expect((await page.request.post("/sign-out", { headers: { Origin: "https://elsewhere.example" } })).status()).toBe(
    403,
  );
  expect(must(await page.goto("/round")).ok()).toBe(true);

  const headers = (await request.get("/sign-in")).headers();
  // The decoder of scanned codes is WebAssembly; scripts are run from here only, and never made of text.
  expect(headers["content-security-policy"]).toMatch(/script-src 'self' 'wasm-unsafe-eval' 'nonce-[0-9a-f]+';/);
  expect(headers["x-content-type-options"]).toBe("nosniff");
});

test("signing in sets a cookie that scripts cannot read, and leads nowhere else", async ({ page }) => {
  await page.goto("/sign-in?next=//elsewhere.example/");
  await page.getByLabel("Sign-in name").fill("mira");
  await page.getByLabel("Password").fill("harbour-demo-1");
  await tap(page, "Sign in");
  await expect(page).toHaveURL(/\/round$/);
  const cookie = must((await page.context().cookies()).find((one) => one.name === "hound_session"));
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: "Lax" });
  await tap(page, "Sign out");
  await expect(page).toHaveURL(/\/sign-in/);
  await page.context().addCookies([cookie]);
  await page.goto("/round");
  await expect(page).toHaveURL(/\/sign-in/);
});

test("the choice of theme stays", async ({ page }) => {
  await page.emulateMedia({ colorScheme: "light" });
  await signIn(page);
  await tap(page, "Dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await expect(page.getByRole("button", { name: "Light" })).toBeVisible();
});
