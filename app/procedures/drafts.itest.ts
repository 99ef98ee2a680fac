import type { Actor } from "~/kit/actor";
import {
  dropDraft,
  getDraft,
  importDraft,
  listDrafts,
  publishDraft,
  saveDraft,
  startDraft,
  startFromNothing,
  versionsOf,
  writtenVersion,
} from "~/procedures/drafts.server";
import { getProcedure, listProcedures } from "~/procedures/procedures.server";
import { loadSheet, openSheet } from "~/sheet/log/sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
let ada: Actor;
let bo: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  [ada, bo, lead] = [await addActor("Ada"), await addActor("Bo"), await addActor("Lea", "lead")];
  await importLines(lead, ["Co,Site,,Europe/Lisbon,,,Kitchen,ice,Ice,flake-ice-maker,,2026-01-01"], NOW);
});
afterAll(closeDatabase);

describe("drafts", () => {
  it("are saved unfinished, never over a newer one, and published by a lead with a reason", async () => {
    const id = await startDraft(ada, "flake-ice-maker-monthly", null, NOW);
    const { body, revision } = await getDraft(id);
    expect([body.version, revision]).toEqual([3, 1]);
    const half = { ...body, title: "", steps: [...body.steps, { id: "x", kind: "do", title: "" }] };
    expect(await saveDraft(ada, id, JSON.stringify(half), 1, later(1))).toMatchObject({
      revision: 2,
      faults: { form: [{ path: `steps[${body.steps.length}].title` }, { path: "title" }], whole: [] },
    });
    await expect(saveDraft(bo, id, JSON.stringify(body), 1, later(2))).rejects.toMatchObject({ code: "newer" });
    await expect(saveDraft(bo, id, "{", 2, later(2))).rejects.toMatchObject({ code: "not-json" });
    await expect(publishDraft(lead, id, { why: "why", revision: 2, newest: 2 }, later(3))).rejects.toMatchObject({
      status: 422,
    });
    const noProof = { ...body, steps: body.steps.filter((step) => step.kind !== "prove") };
    await saveDraft(ada, id, JSON.stringify(noProof), 2, later(4));
    await expect(publishDraft(lead, id, { why: "why", revision: 3, newest: 2 }, later(5))).rejects.toMatchObject({
      code: "lint",
    });
    await saveDraft(ada, id, JSON.stringify({ ...body, title: "Filters, drips, storage", id: "stolen" }), 3, later(6));
    await expect(publishDraft(ada, id, { why: "why", revision: 4, newest: 2 }, later(7))).rejects.toMatchObject({
      status: 403,
    });

    // A sheet that is open stays on its version.
    const open = await openSheet(ada, await dutyOf("ice", "flake-ice-maker-monthly"), "phone", later(8));
    const asRead = { why: "Shorter title", revision: 4, newest: 2 };
    // What somebody has changed since it was read, and what would follow another version, is not published.
    await expect(publishDraft(lead, id, { ...asRead, revision: 3 }, later(9))).rejects.toMatchObject({ code: "newer" });
    await expect(publishDraft(lead, id, { ...asRead, newest: 0 }, later(9))).rejects.toMatchObject({
      code: "published-meanwhile",
    });
    expect(await publishDraft(lead, id, asRead, later(9))).toEqual({
      id: "flake-ice-maker-monthly",
      version: 3,
    });
    expect((await loadSheet(open)).procedure).toMatchObject({ version: 2, title: "Look-over: filters, wires, drips" });
    expect(await getProcedure("flake-ice-maker-monthly")).toMatchObject({
      version: 3,
      title: "Filters, drips, storage",
    });
    expect(await versionsOf("flake-ice-maker-monthly")).toMatchObject([
      { version: 3, by: "Lea", why: "Shorter title" },
      { version: 2, by: null },
    ]);
    await expect(getDraft(id)).rejects.toMatchObject({ status: 404 });
  });

  it("come in as JSON as they went out, as the next version, and not when they are none", async () => {
    const out = await writtenVersion("card-printer-fan", null);
    const id = await importDraft(ada, JSON.stringify({ ...out, title: "From elsewhere" }), NOW);
    expect((await getDraft(id)).body).toEqual({ ...out, title: "From elsewhere", version: 3 });
    await dropDraft(ada, id, NOW);
    await expect(importDraft(ada, "no JSON", NOW)).rejects.toMatchObject({ code: "not-json" });
    await expect(importDraft(ada, JSON.stringify({ ...out, steps: [] }), NOW)).rejects.toMatchObject({
      code: "not-valid",
    });
  });

  it("takes no name of a fault guide's: those are made of it", async () => {
    await expect(
      startDraft(ada, "card-printer-ribbon", { id: "card-printer-faults", title: "x" }, NOW),
    ).rejects.toMatchObject({ code: "id" });
    const id = await startFromNothing(ada, { title: "Faults", family: "card-printer" }, NOW);
    expect((await getDraft(id)).procedureId).toBe("card-printer-faults-2");
    await dropDraft(ada, id, NOW);
  });

  it("can begin as a copy for a model, and be thrown away", async () => {
    await expect(
      startDraft(ada, "card-printer-ribbon", { id: "card-printer-fan", title: "x" }, NOW),
    ).rejects.toMatchObject({ code: "id" });
    const id = await startDraft(
      ada,
      "card-printer-ribbon",
      { id: "card-printer-model-b", title: "Ribbon, model B" },
      NOW,
    );
    expect((await getDraft(id)).body).toMatchObject({
      id: "card-printer-model-b",
      version: 1,
      title: "Ribbon, model B",
    });
    expect((await listDrafts()).map((draft) => draft.title)).toEqual(["Ribbon, model B"]);
    await dropDraft(ada, id, NOW);
    expect(await listDrafts()).toEqual([]);
  });
});

it("the library is searched by words of titles, families and steps", async () => {
  expect((await listProcedures()).length).toBeGreaterThanOrEqual(60);
  expect((await listProcedures({ q: "lapping" })).map((one) => one.id)).toEqual(["card-printer-ribbon"]);
  expect((await listProcedures({ q: "main broom bristle" })).map((one) => one.id)).toEqual(["ride-on-sweeper-daily"]);
  expect((await listProcedures({ family: "dental-mill", q: "tank" })).length).toBe(3);
  expect(await listProcedures({ q: "100%" })).toEqual([]);
});
