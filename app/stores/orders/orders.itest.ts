import { type ChildProcess, spawn } from "node:child_process";
import { join } from "node:path";

import { must } from "@core";
import { getDb } from "@db";

import { getItem, saveItem } from "~/stores/items/catalogue.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { verifyStock } from "~/stores/ledger/ledger.server";
import { addToDraft, changeLine, draftOrders } from "~/stores/orders/order-draft.server";
import { getOrder, listOrders, orderCsv } from "~/stores/orders/orders.server";
import { receiveOrder, takePrices } from "~/stores/orders/receive-order.server";
import { sendOrder, setOrderAside } from "~/stores/orders/send-order.server";
import { closeDatabase } from "~/testing/database";
import { beginStores, depot, lead, NOW, onHand, put, supplierId } from "~/testing/stores";

beforeAll(beginStores);
afterAll(closeDatabase);

/** On a machine that is busy with other tests every answer may take a while. */
const PATIENT_MS = "30000";

describe("orders", () => {
  let supplier: ChildProcess;
  const url = "http://127.0.0.1:7487";
  const behave = (mode: string): Promise<unknown> => fetch(`${url}/behave?mode=${mode}`, { method: "POST" });
  const taken = async (): Promise<{ key: string; ref: string; asked: { code: string; packs: number }[] }[]> => {
    await behave("ok");
    return (
      (await (await fetch(`${url}/orders`)).json()) as {
        orders: { key: string; ref: string; asked: { code: string; packs: number }[] }[];
      }
    ).orders;
  };

  beforeAll(async () => {
    await put("o-ring-kit", depot, 5);
    for (const [id, more] of [
      ["o-ring-kit", { needsSerial: true, leadDays: 10, packSize: 2, packPriceCents: 5000 }],
      ["ice-cleaner", { packSize: 4700, packPriceCents: 3890 }],
    ] as const)
      await saveItem(
        lead,
        id,
        { ...(await getItem(id)), supplierId, orderCode: `HT-${id.toUpperCase()}`, ...more },
        NOW,
      );
    supplier = spawn(process.execPath, [join(process.cwd(), "standins/supplier.mjs")], {
      stdio: ["ignore", "pipe", "inherit"],
      env: { ...process.env, PORT: "7487", SLOW_MS: "1500" },
    });
    await new Promise((resolve) => must(supplier.stdout).once("data", resolve));
    process.env.SUPPLIER_URL = url;
    process.env.SUPPLIER_TIMEOUT_MS = PATIENT_MS;
  });
  afterAll(() => {
    delete process.env.SUPPLIER_URL;
    delete process.env.SUPPLIER_TIMEOUT_MS;
    supplier.kill();
  });
  const draft = async (packs = 2): Promise<string> => {
    const id = await addToDraft(lead, { itemId: "ice-cleaner", packs, machineId: null }, NOW);
    return id;
  };

  it("are drafted from what runs out, by supplier, once, with the machine that waits", async () => {
    await refreshOutlook(NOW);
    await getDb().run(
      "UPDATE stock_outlook SET order_by = '2026-06-12' WHERE item_id = 'o-ring-kit' AND place_id = ''",
    );
    const first = await draftOrders(lead, NOW);
    expect(first.lines).toBeGreaterThan(0);
    const line = must((await getOrder(must(first.orders[0]))).lines.find((one) => one.itemId === "o-ring-kit"));
    expect(line).toMatchObject({ serial: "SF-77", needsSerial: true });
    expect((await draftOrders(lead, NOW)).lines).toBe(0);
    expect(await orderCsv(must(first.orders[0]))).toContain("HT-O-RING-KIT");
    await changeLine(lead, must(first.orders[0]), line.id, { packs: 3, tag: null }, NOW);
    await expect(sendOrder(lead, must(first.orders[0]), NOW)).rejects.toMatchObject({ code: "serial" });
    await changeLine(lead, must(first.orders[0]), line.id, { packs: 3, tag: "S-5" }, NOW);
    await expect(
      changeLine(lead, must(first.orders[0]), line.id, { packs: 3, tag: "S-99" }, NOW),
    ).rejects.toMatchObject({
      code: "tag",
    });
    await setOrderAside(lead, must(first.orders[0]), "cancelled", NOW);
  });

  it.each(["down", "lost", "late-error", "garbage", "slow"])(
    "stay one order when the supplier is %s, sent twice at once and again",
    async (mode) => {
      const before = (await taken()).length;
      const orderId = await draft();
      await behave(mode);
      if (mode === "slow") process.env.SUPPLIER_TIMEOUT_MS = "800";
      const tries = await Promise.all([sendOrder(lead, orderId, NOW), sendOrder(lead, orderId, NOW)]);
      expect(tries.every((one) => one.status === "sending" && one.fault !== null)).toBe(true);
      // Until it is clear it can be neither changed nor set aside.
      const { order, lines } = await getOrder(orderId);
      if (order.status === "sending") {
        await expect(changeLine(lead, orderId, must(lines[0]).id, { packs: 9, tag: null }, NOW)).rejects.toMatchObject({
          status: 409,
        });
        await expect(setOrderAside(lead, orderId, "cancelled", NOW)).rejects.toMatchObject({ status: 409 });
      }
      await behave("ok");
      process.env.SUPPLIER_TIMEOUT_MS = PATIENT_MS;
      if (order.status === "sending") expect(await sendOrder(lead, orderId, NOW)).toMatchObject({ status: "sent" });
      await expect(sendOrder(lead, orderId, NOW)).rejects.toMatchObject({ status: 409 });
      const orders = await taken();
      expect(orders).toHaveLength(before + 1);
      expect(orders.filter((one) => one.key === orderId)).toHaveLength(1);
      expect((await getOrder(orderId)).order).toMatchObject({
        status: "sent",
        supplierRef: must(orders.find((one) => one.key === orderId)).ref,
      });
    },
  );

  it("that are refused say why and can be tried as another order", async () => {
    await behave("refuse");
    const orderId = await draft();
    expect(await sendOrder(lead, orderId, NOW)).toMatchObject({
      status: "refused",
      fault: expect.stringContaining("on hold") as string,
    });
    await behave("ok");
    await setOrderAside(lead, orderId, "draft", NOW);
    const [again] = (await listOrders(null)).rows;
    expect(again).toMatchObject({ status: "draft", lines: 1 });
    expect((await getOrder(orderId)).lines).toHaveLength(1);
    const unknown = await getItem("gear-oil");
    await saveItem(lead, "gear-oil", { ...unknown, supplierId, orderCode: "NOT-THERE" }, NOW);
    await addToDraft(lead, { itemId: "gear-oil", packs: 1, machineId: null }, NOW);
    expect(await sendOrder(lead, must(again).id, NOW)).toMatchObject({ status: "refused" });
    expect(must((await getOrder(must(again).id)).lines.find((line) => line.itemId === "gear-oil")).fault).toContain(
      "catalogue",
    );
    await setOrderAside(lead, must(again).id, "cancelled", NOW);
  });

  it("arrive in parts, by lot, and never more than was ordered", async () => {
    await behave("partial");
    const orderId = await draft(4);
    await sendOrder(lead, orderId, NOW);
    await behave("ok");
    const { lines } = await getOrder(orderId);
    expect(lines[0]).toMatchObject({ packs: 4, promisedPacks: 2 });
    const before = await onHand("ice-cleaner", depot);
    const arrives = (packs: number, lot: string | null = null, expiresOn: string | null = null) =>
      receiveOrder(lead, orderId, [{ lineId: must(lines[0]).id, packs, lot, expiresOn }], NOW);
    await expect(arrives(5)).rejects.toMatchObject({ code: "lines[0].packs" });
    await expect(arrives(0)).rejects.toMatchObject({ code: "nothing" });
    await expect(arrives(1, null, "2027-01-01")).rejects.toMatchObject({ code: "lines[0].lot" });
    expect(await arrives(1, "N1", "2028-01-01")).toBe("partly");
    expect(await arrives(3)).toBe("received");
    await expect(arrives(1)).rejects.toMatchObject({ status: 409 });
    expect(await onHand("ice-cleaner", depot)).toBe(before + 4 * 4700);
    expect(await verifyStock()).toEqual([]);
  });

  it("take prices over from the supplier, or say that they cannot be had", async () => {
    expect(await takePrices(lead, NOW)).toMatchObject({ changed: expect.any(Number) as number });
    expect((await getItem("ice-cleaner")).leadDays).not.toBeNull();
    await behave("down");
    expect(await takePrices(lead, NOW)).toBeNull();
  });
});
