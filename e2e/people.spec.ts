import { expect } from "@playwright/test";

import { signIn, tap } from "./helpers/app";
import { test } from "./helpers/test";

test("a lead adds a person, who chooses an own password; then ends their sign-ins and deactivates them", async ({
  page,
  browser,
}) => {
  await signIn(page, "jonas");
  await page.goto("/book/people");
  const add = page.getByRole("region", { name: "Add a person" });
  await add
    .getByLabel("Name", { exact: true })
    .fill("A Very Long Name Of A Person Who Also Has Quite A Few Middle Names");
  await add.getByLabel("Sign-in name").fill("long.name");
  await add.getByLabel("First password").fill("short");
  await add.getByRole("button", { name: "Add" }).click();
  await expect(add.getByText("Use at least 10 characters")).toBeVisible();
  await expect(add.getByLabel("Sign-in name")).toHaveValue("long.name");
  await add.getByLabel("First password").fill("first password");
  await add.getByRole("button", { name: "Add" }).click();
  const card = page.getByRole("listitem").filter({ has: page.getByRole("heading", { name: /A Very Long Name/ }) });
  await expect(card).toBeVisible();

  const other = await browser.newPage({ baseURL: new URL(page.url()).origin });
  await other.goto("/sign-in");
  await other.getByLabel("Sign-in name").fill("long.name");
  await other.getByLabel("Password").fill("first password");
  await tap(other, "Sign in");
  await expect(other).toHaveURL(/\/password/);
  await other.goto("/round");
  await expect(other).toHaveURL(/\/password/);
  await other.getByLabel("Present password").fill("first password");
  await other.getByLabel("New password", { exact: true }).fill("an own password");
  await other.getByLabel("New password again").fill("an own password");
  await tap(other, "Save");
  await expect(other).toHaveURL(/\/round/);

  const change = async () => {
    if (!(await card.getByRole("button", { name: "End all sign-ins" }).isVisible()))
      await card.getByText("Change").click();
  };
  await page.reload();
  await change();
  await card.getByLabel("Authorisation").fill("licensed-gas");
  await card.getByRole("button", { name: "Grant it" }).click();
  await expect(card.getByText("licensed-gas")).toBeVisible();
  await change();
  await card.getByRole("button", { name: "End all sign-ins" }).click();
  await expect(card.getByText(/signed in on/)).toHaveCount(0);
  await other.goto("/round");
  await expect(other).toHaveURL(/\/sign-in/);
  await change();
  await card.getByRole("button", { name: "Deactivate" }).click();
  await expect(card.getByText(/deactivated/)).toBeVisible();
  await other.close();
});
