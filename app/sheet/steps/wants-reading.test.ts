import type { SheetStep } from "@core";

import { waitVerdict, wantsReading } from "./wants-reading";

const SOAK = { minMinutes: 30, maxMinutes: 45 };
const ran = (minutes: number, verdict: "short" | "in" | "long") => ({
  startedAt: "2026-03-02T08:00:00Z",
  startedBy: "a",
  stoppedAt: "2026-03-02T09:00:00Z",
  minutes,
  verdict,
});

describe("what is said of a clock that was stopped", () => {
  it("says how much a wait was short, and what follows", () => {
    expect(waitVerdict(SOAK, ran(18 + 20 / 60, "short"))).toEqual({
      says: "Stopped after 18:20: 11:40 short of 30 min.",
      then: "It may not have worked yet. Go on when nothing was taken out.",
    });
    expect(waitVerdict({ ...SOAK, ifShort: "Fat stays." }, ran(1, "short"))?.then).toBe("Fat stays.");
  });

  it("says by how much a soak was too long, and what to look at", () => {
    expect(waitVerdict(SOAK, ran(49.5, "long"))).toEqual({
      says: "Out after 49:30: 4:30 over the maximum of 45 min.",
      then: expect.stringContaining("seals") as string,
    });
    expect(waitVerdict({ ...SOAK, ifLong: "Check the gaskets." }, ran(90, "long"))?.then).toBe("Check the gaskets.");
  });

  it("says nothing of one that was right, or runs", () => {
    expect(waitVerdict(SOAK, ran(31, "in"))).toBeNull();
    expect(waitVerdict(SOAK, { ...ran(0, "in"), minutes: null, verdict: null })).toBeNull();
  });
});

describe("a page that stays with a step", () => {
  const wait = (kind: string, settled: boolean, timer: ReturnType<typeof ran> | null) =>
    ({ definition: { kind, ...SOAK }, settled, state: { timer, status: "done" } }) as unknown as SheetStep;
  const gap = { id: "gap", kind: "measure", limits: { min: 2 } };
  const measure = (answer: string | null, status = "done", definition = gap) =>
    ({ definition, settled: true, state: { timer: null, status, answer } }) as unknown as SheetStep;
  const stays = (one: SheetStep | null, steps: unknown[] = []): boolean => wantsReading(one, steps as never);

  it("stays while what it came to is not read", () => {
    expect(stays(wait("wait", true, ran(3, "short")))).toBe(true);
    expect(stays(wait("wait", true, ran(300, "long")))).toBe(true);
    expect(stays(measure("low"))).toBe(true);
    expect(stays(measure("high"), [{ when: [{ step: "other", is: "out" }] }, {}])).toBe(true);
  });

  it.each([
    ["none", null],
    ["a wait that was right", wait("wait", true, ran(31, "in"))],
    ["one that was left out", wait("wait", true, null)],
    ["one that runs", wait("wait", false, ran(3, "short"))],
    ["a gate that waited", wait("safety", true, ran(3, "short"))],
    ["a reading within its limits", measure("in")],
    ["one that was skipped", measure("low", "skipped")],
    ["one without limits", measure("low", "done", { id: "gap", kind: "measure" } as never)],
  ])("goes on from %s", (_, one) => {
    expect(stays(one)).toBe(false);
  });

  it("goes on where the procedure has steps for it", () => {
    expect(stays(measure("low"), [{ when: [{ step: "gap", is: "out" }] }])).toBe(false);
    expect(
      stays(measure("low"), [
        {
          when: [
            { option: "gap", fitted: true },
            { step: "gap", is: "low" },
          ],
        },
      ]),
    ).toBe(false);
  });
});
