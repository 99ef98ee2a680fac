import { execFileSync } from "node:child_process";

import { expect, type Page } from "@playwright/test";

import { must } from "../core/must";
import { expectAccessible, signIn, tap, waitUntilReady } from "./helpers/app";
import { test } from "./helpers/test";

async function putOnMyDay(page: Page, tag: string, duty: string): Promise<void> {
  await page.goto(`/t/${tag}`);
  await page.getByRole("main").getByRole("link", { name: duty, exact: true }).first().click();
  await tap(page, "Put it on my day");
  await expect(page).toHaveURL(/\/round\/day/);
  await expect(page.getByText("Looking for the best round…")).toHaveCount(0, { timeout: 15_000 });
}

/** A scanner types the code and a return. */
async function scan(page: Page, label: string, code: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).focus();
  await page.keyboard.type(code);
  await page.keyboard.press("Enter");
}

const line = (page: Page, group: string, item: string) =>
  page.getByRole("region", { name: group }).getByRole("listitem").filter({ hasText: item });

test("the load list of a day is right, item by item; what is missing from the van is moved, ticks stay", async ({
  page,
}) => {
  await signIn(page, "mira");
  for (const [tag, duty] of [
    ["HH-2004", "Bearing check"],
    ["HH-2004", "Clean and sanitise"],
    ["HH-7006", "At each ribbon change"],
    ["HH-8002", "Lubricator recharged"],
  ] as const)
    await putOnMyDay(page, tag, duty);
  await page.goto("/round/load");
  await waitUntilReady(page);
  // By the procedures of the three duties, and nothing else: a cartridge, which the van has none of; what earlier services
  // left of the rest decides whether it lies in the van or in the depot.
  const depot = "Fetch from Van yard store";
  const inVan = "In Van 1 already";
  await expect(line(page, depot, "Lubricator cartridge, 1 pc")).toBeVisible();
  for (const wanted of [
    "Chlorine sanitiser, 20 mL",
    "Mild soap, 15 mL",
    "Sanitiser, quaternary, 20 mL",
    "Alcohol card, 1 pc",
    "Alcohol swab, 1 pc",
    "Ice machine cleaner, 240 mL",
  ])
    await expect(line(page, inVan, wanted).or(line(page, depot, wanted))).toBeVisible();
  // The stick in the printer's kit has a side left or not: with one left, none is taken along.
  const sticks = await page.getByRole("checkbox", { name: "Lapping stick: in the van" }).count();
  const stocked = page.getByRole("region", { name: inVan }).or(page.getByRole("region", { name: depot }));
  await expect(stocked.getByRole("checkbox")).toHaveCount(7 + sticks);
  await expect(line(page, "Tools", "Feeler gauge, 0.020 in (0.51 mm)")).toBeVisible();
  await expect(
    line(page, "To wear", "Chemical-resistant gloves")
      .or(line(page, "To wear", "Disposable gloves"))
      .first(),
  ).toBeVisible();
  await expect(
    page
      .getByRole("region", { name: "Likely parts" })
      .getByText(/Auger bearing/)
      .first(),
  ).toBeVisible();
  await expectAccessible(page);

  // Held for the day, and scanned while loading.
  await tap(page, "Hold it all for this day");
  await expect(page.getByText(/things are held: nobody else can take them/)).toBeVisible();
  await scan(page, "Scan what you load", "HHS1003");
  await expect(page.getByText("Alcohol card: in the van.")).toBeVisible();
  await expect(page.getByRole("checkbox", { name: "Alcohol card: in the van" })).toBeChecked();
  await scan(page, "Scan what you load", "HHS9999");
  await expect(page.getByText("“HHS9999” is not on this list.")).toBeVisible();
  await tap(page, "Move 1 pc of Lubricator cartridge from Van yard store");
  await expect(line(page, inVan, "Lubricator cartridge, 1 pc")).toBeVisible();
  await expect(line(page, depot, "Lubricator cartridge")).toHaveCount(0);
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByRole("checkbox", { name: "Alcohol swab: in the van" }).focus();
  await page.keyboard.press("Space");
  await expect(page.getByText(/^2 of \d+$/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole("checkbox", { name: "Alcohol swab: in the van" })).toBeChecked();
  // Without a connection nothing is lost: it waits on the device, and is sent when there is one.
  await waitUntilReady(page);
  await page.context().setOffline(true);
  const soap = page.getByRole("checkbox", { name: "Mild soap: in the van" });
  await soap.click();
  await expect(page.getByText("1 tick waits for a connection: kept on this device until then.")).toBeVisible();
  await expect(soap).toBeChecked();
  await expectAccessible(page);
  await page.context().setOffline(false);
  await expect(page.getByText(/waits for a connection/)).toHaveCount(0, { timeout: 30_000 });
  await page.reload();
  await expect(soap).toBeChecked();
  // Found within its words, and a group in one press; what stays in the van is ticked for the week.
  await waitUntilReady(page);
  await page.getByLabel("Scan what you load").fill("resistant");
  await expect(soap).toHaveCount(0);
  await page.getByLabel("Scan what you load").fill("");
  const tools = page.getByRole("region", { name: "Tools" });
  await tools.getByRole("button", { name: /^Tick all \d+ of “Tools”$/ }).click();
  await expect(tools.getByRole("checkbox", { checked: false })).toHaveCount(0);
  await page.reload();
  await expect(tools.getByRole("checkbox").first()).toBeChecked();
  await expect(tools.getByRole("checkbox", { checked: false })).toHaveCount(0);
});

test("an item is scanned, received by lot, moved, thrown away and counted, each a line of its ledger", async ({
  page,
}) => {
  await signIn(page, "tove");
  await page.goto("/stores");
  await waitUntilReady(page);
  await expectAccessible(page);
  // The code is on the bottle; the return that a scanner sends opens it.
  await scan(page, "Find an item", "HHS1007");
  await expect(page.getByRole("heading", { level: 1, name: "Lint-free wipes" })).toBeVisible();
  await page.goto("/stores/items/lithium-grease");
  await waitUntilReady(page);
  await page.getByRole("button", { name: "Received", exact: true }).click();
  await page.getByLabel("How much, g").first().fill("400");
  await page.getByLabel("Expires").fill("2031-05-01");
  await tap(page, "Put it there");
  await expect(page.getByText("Give the lot that expires then.").first()).toBeVisible();
  await page.getByLabel("Lot", { exact: true }).fill("G-7");
  await page.getByLabel("Where", { exact: true }).selectOption({ label: "Van yard store" });
  await tap(page, "Put it there");
  await expect(page.getByText("G-7: 400 g until Thu 1 May 2031")).toBeVisible();
  await page.getByRole("button", { name: "Move", exact: true }).click();
  await page.getByLabel("From").first().selectOption({ label: "Van yard store" });
  await page.getByLabel("To", { exact: true }).selectOption({ label: "Van 2" });
  await page.getByLabel("How much, g").nth(1).fill("999999");
  await tap(page, "Move it");
  await expect(page.getByText(/are free there by the books/).first()).toBeVisible();
  await expectAccessible(page);

  await page.goto("/stores/places");
  await page.getByRole("link", { name: "Van 2" }).click();
  await waitUntilReady(page);
  await scan(page, "Item", "lithium-grease");
  await page.getByLabel("Without a lot, g").fill("12,5");
  await tap(page, "That is what is there");
  await expect(
    page
      .getByText("The count differs from the books. Say what explains it.")
      .or(page.getByText(/Counted\. /))
      .first(),
  ).toBeVisible();
  if ((await page.getByText(/Counted\. /).count()) === 0) {
    await page.getByLabel("What explains a difference").fill("Squeezed out, nobody booked it");
    await tap(page, "That is what is there");
  }
  await expect(page.getByText(/Counted\. White lithium grease: /)).toBeVisible();
  await expectAccessible(page);
  await page.goto("/stores/items/lithium-grease");
  await expect(page.getByRole("cell", { name: /^Counted 12\.5 g/ }).first()).toBeVisible();
});

test("what runs out is ordered from the supplier once, arrives, and is on the shelf; kits, spans and costs add up", async ({
  page,
}) => {
  await signIn(page, "jonas");
  await page.goto("/stores/items");
  await waitUntilReady(page);
  await page.getByLabel("Name or code").fill("o-ring");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "O-ring kit" }).click();
  await waitUntilReady(page);
  await page.getByRole("button", { name: "Order", exact: true }).click();
  await page.getByLabel("Packs of 1 pc").fill("2");
  await tap(page, "Put it on a draft");
  await expect(
    page.getByText("Ordered by model and serial: say for which machine.").or(page.getByText(/^For /)).first(),
  ).toBeVisible();
  await tap(page, "Send the order");
  await expect(page.getByText(/is ordered by the machine's model and serial/).first()).toBeVisible();
  await page.getByLabel("Machine tag").fill("hh-2006");
  await tap(page, "Change O-ring kit");
  await expect(page.getByText("For Kiosk soft serve: model")).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Send the order");
  await expect(page.getByText("Ordered", { exact: true })).toBeVisible();
  await expect(page.getByText(/S-\d{5}/)).toBeVisible();
  await page.getByLabel("Packs").fill("3");
  await tap(page, "Put it on the shelf");
  await expect(page.getByText(/only 2 were still to come/).first()).toBeVisible();
  await page.getByLabel("Packs").fill("1");
  await tap(page, "Put it on the shelf");
  await expect(page.getByText("Partly here", { exact: true })).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  await expectAccessible(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  const file = await page.request.get(must(await page.getByRole("link", { name: "As a file" }).getAttribute("href")));
  expect(await file.text()).toContain("HT-O-RING-KIT");

  for (const [view, heading] of [
    ["/stores/orders", "Orders"],
    ["/stores/kits", "Kits"],
    ["/stores/need?days=90", "What a span takes"],
    ["/stores/costs?by=family", "Costs"],
    ["/stores/items/new/edit", "Add an item"],
    ["/stores/import", "Stock from a file"],
    ["/stores/places", "Places"],
  ] as const) {
    await page.goto(view);
    await waitUntilReady(page);
    await expect(page.getByRole("heading", { level: 1, name: heading })).toBeVisible();
    await expectAccessible(page);
    await page.emulateMedia({ colorScheme: "dark" });
    await expectAccessible(page, "colours");
    await page.emulateMedia({ colorScheme: "light" });
  }
  await page.goto("/stores/orders");
  await waitUntilReady(page);
  await page.getByText("Add a supplier").click();
  await page.getByLabel("Name", { exact: true }).fill("Harbour Trade Supply");
  await page.getByLabel("Days to come").fill("9");
  await tap(page, "Add it");
  await expect(page.getByText("There is a supplier of this name already.").first()).toBeVisible();
  await page.getByLabel("Name", { exact: true }).fill("Islet Chandlers");
  await tap(page, "Add it");
  await expect(page.getByText("Islet Chandlers, 9 days, by file or mail")).toBeVisible();
  // What would also do is scanned into the item's form.
  await page.goto("/stores/items/mild-soap/edit");
  await waitUntilReady(page);
  await page.getByLabel("Supplier", { exact: true }).selectOption({ label: "Islet Chandlers" });
  await page.getByLabel("What would also do").fill("no such thing");
  await tap(page, "Save the item");
  await expect(page.getByText("Nothing in the catalogue is “no such thing”.")).toBeVisible();
  await page.getByLabel("What would also do").fill("");
  await scan(page, "What would also do", "detergent-mild");
  await tap(page, "Save the item");
  await expect(page.getByRole("link", { name: "Mild detergent", exact: true })).toBeVisible();
  await page.goto("/stores/kits");
  await expect(page.getByText("Van 1: 2 more services")).toBeVisible();
  await expect(page.getByText(/^First out: Lapping stick\. Missing from a full kit: Adhesive card/)).toBeVisible();
  expect(await (await page.request.get("/stores/costs.csv?by=site")).text()).toMatch(/^site,services,hands_on_hours/);
  const stock = await (await page.request.get("/stores.csv")).text();
  expect(stock).toContain("Van yard store,o-ring-kit,O-ring kit");
  await page.goto("/stores/import");
  await page.getByLabel("CSV file").setInputFiles({
    name: "s.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("place,item,quantity\nVan 1,no-such,1\n"),
  });
  await tap(page, "Take it over");
  await expect(page.getByText("“no-such” is not in the catalogue.")).toBeVisible();

  // A year of services, and everything the tests before did: the sums are what the ledger says.
  const said = execFileSync(process.execPath, ["--import", "tsx", "scripts/verify-stock.ts"], { encoding: "utf8" });
  expect(said).toContain("The stock is what its ledger says.");
});
