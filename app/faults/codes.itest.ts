import { must } from "@core";
import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { guideOf } from "~/procedures/guides/guides.server";
import { loadSheet } from "~/sheet/log/sheets.server";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { addCode, codesOf, endCode } from "./codes.server";
import { causesFound, downCsv, downRows } from "./down-time.server";
import {
  dropGuideDraft,
  familiesWithDrafts,
  familyCalled,
  guideDraft,
  publishGuideDraft,
  saveGuideDraft,
  startGuideDraft,
} from "./editor/guide-drafts.server";
import { machineFaults } from "./faults.server";
import { startFault } from "./start-fault.server";

const NOW = new Date("2026-06-10T09:00:00Z");
let ada: Actor;
let lea: Actor;
let machines: string[];

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("few");
  ada = await addActor("Ada");
  lea = await addActor("Lea", "lead");
  await importLines(
    lea,
    ["one", "two", "three"].map(
      (tag) =>
        `Co,Site,,Europe/Lisbon,,"Mon-Fri 06:00-20:00; Sat, Sun closed",Hall,${tag},Cabinet ${tag},prep-cabinet,,2026-06-01`,
    ),
    NOW,
  );
  machines = (await getDb().models.Machine.findAll({ order: [["tag", "ASC"]], raw: true })).map((one) => one.id);
  await getDb().models.Machine.update({ model: "PC 2" }, { where: { id: must(machines[1]) } });
});
afterAll(closeDatabase);

describe("codes and function tests", () => {
  const code = { model: "", kind: "code", code: "E04", says: "Probe open", symptom: "too-warm" } as const;

  it("lead to a symptom, of one model or of all; said anew, the old text stays", async () => {
    await addCode(ada, "prep-cabinet", code, NOW);
    await addCode(ada, "prep-cabinet", { ...code, model: "PC 2", code: "E09", symptom: null }, NOW);
    await addCode(ada, "prep-cabinet", { ...code, says: "Cabinet probe open or unplugged" }, NOW);
    expect((await codesOf("prep-cabinet", null)).map((one) => one.code)).toEqual(["E04", "E09"]);
    expect(await getDb().models.FaultCode.count()).toBe(3);
    expect((await machineFaults(must(machines[0]), null)).codes).toMatchObject([
      { code: "E04", says: "Cabinet probe open or unplugged", symptomSays: "Too warm" },
    ]);
    expect((await machineFaults(must(machines[1]), null)).codes.map((one) => one.code)).toEqual(["E04", "E09"]);
  });

  it("begin a fault, and stand on its sheet with what it was begun because of", async () => {
    const [known] = await codesOf("prep-cabinet", "");
    const sheet = await startFault(
      ada,
      must(machines[0]),
      { symptom: "too-warm", report: null, code: must(known).id, about: "Cabinet 9 °C" },
      NOW,
    );
    const { entries } = await loadSheet(sheet);
    expect(entries.flatMap((one) => (one.type === "note" ? [one.text] : []))).toEqual([
      "E04: Cabinet probe open or unplugged",
      "Begun because of: Cabinet 9 °C",
    ]);
  });

  it("are refused where they lead nowhere, and are taken out once", async () => {
    await expect(addCode(ada, "prep-cabinet", { ...code, symptom: "singing" }, NOW)).rejects.toMatchObject({
      code: "symptom",
    });
    await expect(addCode(ada, "no-such", code, NOW)).rejects.toMatchObject({ status: 404 });
    const { id } = must((await codesOf("prep-cabinet", "")).find((one) => one.code === "E04"));
    await endCode(lea, "prep-cabinet", id, NOW);
    await expect(endCode(lea, "prep-cabinet", id, NOW)).rejects.toMatchObject({ status: 409 });
    expect(await codesOf("prep-cabinet", "")).toEqual([]);
  });
});

describe("a guide's draft", () => {
  const family = "prep-cabinet";
  const save = async (change: (guide: Awaited<ReturnType<typeof guideDraft>>["guide"]) => void) => {
    const { guide, revision } = await guideDraft(family);
    change(guide);
    return saveGuideDraft(ada, family, JSON.stringify(guide), revision, NOW);
  };

  it("is begun once, saved unfinished with what would be refused, and published by a lead as the next version", async () => {
    await startGuideDraft(ada, family, NOW);
    await startGuideDraft(lea, family, NOW);
    expect(await familiesWithDrafts()).toEqual([family]);
    const { guide, newest } = await guideDraft(family);
    expect(guide.version).toBe(newest + 1);
    const { faults } = await save((body) => (must(body.causes[0]).name = ""));
    expect(faults.form).toEqual(["causes[0].name"]);
    const publish = async (who: Actor) =>
      publishGuideDraft(who, family, { why: "Ours", revision: (await guideDraft(family)).revision, newest }, NOW);
    await expect(publish(lea)).rejects.toMatchObject({ status: 422 });
    await save((body) => (must(body.causes[0]).name = "Our own words"));
    await expect(publish(ada)).rejects.toMatchObject({ status: 403 });
    await publish(lea);
    expect(must(await guideOf(family))).toMatchObject({ version: newest + 1 });
    expect(must(must(await guideOf(family)).causes[0]).name).toBe("Our own words");
    // What was begun stays on its version; what begins now is of the new one.
    expect((await getDb().models.Procedure.findAll({ where: { id: `${family}-faults` }, raw: true })).length).toBe(2);
    const sheet = await startFault(ada, must(machines[2]), { symptom: "too-warm", report: null }, NOW);
    expect((await loadSheet(sheet)).procedure.version).toBe(newest + 1);
    await expect(guideDraft(family)).rejects.toMatchObject({ status: 404 });
  });

  it("of two who write at once, the second is told; nothing is overwritten", async () => {
    await startGuideDraft(ada, family, NOW);
    const { guide, revision } = await guideDraft(family);
    const text = JSON.stringify(guide);
    await saveGuideDraft(ada, family, text, revision, NOW);
    await expect(saveGuideDraft(lea, family, text, revision, NOW)).rejects.toMatchObject({ code: "newer" });
    await expect(saveGuideDraft(ada, family, "[]", revision + 1, NOW)).rejects.toMatchObject({ status: 422 });
    await expect(saveGuideDraft(ada, family, '{"causes":[null]}', revision + 1, NOW)).rejects.toMatchObject({
      status: 422,
    });
    await dropGuideDraft(ada, family, NOW);
    expect(await familiesWithDrafts()).toEqual([]);
  });

  it("is written from nothing for a family that has none", async () => {
    expect(familyCalled("Vacuum pump")).toBe("vacuum-pump");
    expect(familyCalled("conveyor OVEN")).toBe("conveyor-oven");
    expect(() => familyCalled("!!")).toThrow("Use letters or digits.");
    await startGuideDraft(ada, "vacuum-pump", NOW);
    const { guide, faults, newest } = await guideDraft("vacuum-pump");
    expect(newest).toBe(0);
    expect(faults.form).toEqual(expect.arrayContaining(["title", "symptoms", "checks", "causes"]));
    const written = {
      ...guide,
      title: "Faults of the vacuum pump",
      summary: "Typical.",
      symptoms: [{ id: "weak", says: "Weak", proof: "Strong", causes: [{ cause: "dirt", chance: 1 }] }],
      checks: [
        {
          id: "look",
          title: "Look",
          how: "At it.",
          minutes: 2,
          clear: "Clean",
          finds: [{ cause: "dirt", share: 1, shows: "Dirty" }],
        },
      ],
      causes: [{ id: "dirt", name: "Dirt", who: "technician", remedy: [{ id: "wipe", kind: "do", title: "Wipe" }] }],
    };
    const saved = await saveGuideDraft(ada, "vacuum-pump", JSON.stringify(written), 1, NOW);
    expect(saved.faults).toEqual({ form: [], whole: [] });
    await publishGuideDraft(lea, "vacuum-pump", { why: "New", revision: saved.revision, newest: 0 }, NOW);
    expect(must(await guideOf("vacuum-pump"))).toMatchObject({ version: 1 });
  });
});

describe("how machines hold up", () => {
  it("by family, site and machine: down time once, from a machine's first day", async () => {
    const machineId = must(machines[1]);
    const at = (text: string): Date => new Date(`2026-06-${text}:00Z`);
    await getDb().models.ProblemReport.bulkCreate(
      [
        { id: machineId.replace(/^./, "a"), loggedAt: at("02T00:00"), closedAt: at("03T00:00") },
        { id: machineId.replace(/^./, "b"), loggedAt: at("02T12:00"), closedAt: at("04T00:00") },
      ].map((one) => ({ machineId, name: "Desk", text: "Stopped", stopped: true, ...one })),
    );
    const rows = await downRows("family", "2026-05-01", "2026-06-09", NOW);
    // Three machines of nine days each, from 1 June; one down for two days by two reports.
    const days = 27 * 24;
    expect(rows).toEqual([
      {
        key: "prep-cabinet",
        name: "Refrigerated prep cabinet",
        ...{ machines: 3, failures: 2, repairs: 2, hours: days },
        ...{ mtbfHours: (days - 48) / 2, mttrHours: 30, availability: (days - 48) / days },
      },
    ]);
    expect((await downRows("machine", "2026-05-01", "2026-06-09", NOW)).map((one) => one.availability)).toEqual([
      (216 - 48) / 216,
    ]);
    expect((await downRows("site", "2026-05-01", "2026-05-20", NOW)).length).toBe(0);
    expect(await downCsv("site", "2026-05-01", "2026-06-09", NOW)).toContain("Site,3,648,2,300.0,30.0,0.92593");
    expect(await causesFound("2026-05-01", "2026-06-09")).toEqual([]);
  });
});
