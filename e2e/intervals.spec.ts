import { expect, type Page } from "@playwright/test";

import {
  allSent,
  drawSignature,
  expectAccessible,
  expectNothingSideways,
  openSheet,
  PASSWORD,
  signIn,
  step,
  tap,
} from "./helpers/app";
import { test } from "./helpers/test";

const TAG = "HH-1002";
const DUTY = "Look-over: filters, wires, drips";

/** Works a sheet on which all is as it should be. */
async function allIsWell(page: Page): Promise<void> {
  const end = page.getByRole("heading", { level: 2, name: "Every step is settled." });
  const answers = page.getByRole("button", { name: /^(As it should be|Done|As expected)$/ });
  const gate = page.getByRole("article").getByRole("checkbox");
  for (let i = 0; i < 30; i++) {
    await expect(end.or(answers).or(gate).first()).toBeVisible();
    if (await end.isVisible()) return;
    const before = await page.getByRole("heading", { level: 2 }).first().textContent();
    for (const box of await gate.all()) await box.check();
    if (await answers.first().isVisible()) await answers.first().click();
    else
      await page
        .getByRole("article")
        .getByRole("button", { name: /safe|Confirm|it is so/i })
        .click();
    await expect(page.getByRole("heading", { level: 2 }).first()).not.toHaveText(before ?? "");
  }
}

test("how a machine was found is asked in one tap, and asks for another interval that a lead decides on", async ({
  page,
  browser,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "mira");
  await openSheet(page, TAG, DUTY);
  await allIsWell(page);
  await step(page, "Every step is settled.");
  const asked = page.getByRole("group", { name: "How was it found?" });
  await expectAccessible(page);
  await expectNothingSideways(page);
  await asked.getByRole("button", { name: /^Fair/ }).click();
  await expect(page.getByText("Found fair.")).toBeVisible();
  await tap(page, /Say otherwise/);
  await asked.getByRole("button", { name: /^Poor/ }).click();
  await expect(page.getByText("Found poor.")).toBeVisible();
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await drawSignature(page, "Ona Reef");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page.getByRole("heading", { name: "How it was found" })).toBeVisible();
  await expect(page.getByText("Poor, Mira Holt says.")).toBeVisible();

  // A technician reads what it asks for, and does not decide.
  const proposal = (of: Page) => of.getByRole("listitem").filter({ hasText: TAG }).filter({ hasText: DUTY });
  await page.goto("/machines/intervals");
  await expect(proposal(page)).toContainText("Found poor at the last service.");
  await expect(page.getByRole("button", { name: "Accept" })).toHaveCount(0);
  await expectNothingSideways(page);

  const lead = await (await browser.newContext()).newPage();
  await signIn(lead, "jonas");
  await lead.getByRole("link", { name: "Accept or refuse them" }).click();
  await expect(proposal(lead)).toContainText(/every 22 days/);
  await expect(proposal(lead)).toContainText(/more work a year/);
  await expectAccessible(lead);
  await proposal(lead).getByRole("button", { name: "Accept" }).click();
  await expect(proposal(lead).getByRole("alert")).toContainText("Say why");
  await proposal(lead).getByLabel("Why?").fill("Scale and slime before the month was over");
  await proposal(lead).getByLabel("Why?").press("Enter");
  await expect(lead.getByRole("status").filter({ hasText: "Accepted" })).toBeVisible();
  await expect(proposal(lead)).toHaveCount(0);

  // It comes by that from now on, and the machine's story tells why.
  await lead.getByRole("link", { name: "What was decided" }).click();
  await expect(proposal(lead)).toContainText(/Accepted on .+ by Jonas Rock: Scale and slime/);
  await expectAccessible(lead);
  await proposal(lead).getByRole("link", { name: DUTY }).click();
  await expect(lead.getByRole("list", { name: "Found at the last services" })).toContainText("poor");
  await lead.goto(`/t/${TAG}`);
  await lead.getByRole("link", { name: "Trail" }).click();
  await expect(lead.getByRole("row").filter({ hasText: "interval tuned" }).first()).toContainText("Scale and slime");

  // Site beside site, and no more said than the data bear.
  await lead.goto("/machines/intervals");
  await lead.getByRole("link", { name: "Sites beside each other" }).click();
  await lead.getByLabel("Procedure").selectOption({ label: "Condenser at the rear, wick pad and feet (12)" });
  await tap(lead, "Show");
  await expect(lead.getByRole("row").filter({ hasText: "Aquarium and café" })).toContainText("Much");
  await expect(lead.getByText("Whether dust has a part in it cannot be said from 3 sites.")).toBeVisible();
  await expectAccessible(lead);
  const csv = await (await lead.request.get("/machines/intervals/found.csv?procedure=prep-cabinet-condenser")).text();
  expect(csv).toContain("School kitchen,150,little,1,3,3,0,0,0,92");
  await lead.context().close();
});
