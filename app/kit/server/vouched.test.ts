import type { RunEvent } from "@core";
import type { MachineHoldRow } from "@db";

import { contentHash } from "./content-hash.server";
import { vouchedFor, vouchedReturn } from "./record-chain.server";

/*
 * What was hashed once must hash the same for ever: under other names every record that was signed before would count as
 * changed.
 */
describe("what is vouched for", () => {
  it("keeps its names and its hash, in whatever order the log comes", () => {
    const entries = [
      { id: "b", runId: "s", at: "2026-06-10T08:01:00Z", by: "mo", device: "phone", type: "note", text: "x" },
      { id: "a", runId: "s", at: "2026-06-10T08:00:00Z", by: "mo", device: "phone", type: "paused" },
    ] as RunEvent[];
    const sheet = { id: "s", procedureId: "p", procedureVersion: 2 };
    const vouched = vouchedFor(sheet, entries);
    expect(Object.keys(vouched)).toEqual(["runId", "procedureId", "procedureVersion", "events"]);
    expect(contentHash(vouched)).toBe(contentHash(vouchedFor(sheet, [...entries].reverse())));
    expect(contentHash(vouched)).toBe(
      contentHash({ runId: "s", procedureId: "p", procedureVersion: 2, events: [entries[1], entries[0]] }),
    );
  });

  it("of a return to service is the hold under the names it had first", () => {
    const hold: MachineHoldRow = {
      id: "h",
      machineId: "m",
      reason: "frayed cord",
      sheetId: "s",
      entryId: "e",
      byPerson: "mo",
      since: new Date("2026-06-10T08:00:00Z"),
      clearedBy: "lea",
      clearedAt: new Date("2026-06-11T08:00:00Z"),
      clearedNote: "new cord",
    };
    expect(vouchedReturn(hold)).toEqual({
      id: "h",
      machineId: "m",
      reason: "frayed cord",
      runId: "s",
      eventId: "e",
      byPerson: "mo",
      since: "2026-06-10T08:00:00.000Z",
      clearedBy: "lea",
      clearedAt: "2026-06-11T08:00:00.000Z",
      clearedNote: "new cord",
    });
  });
});
