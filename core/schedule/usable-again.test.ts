import { usableAgain } from "./usable-again";

const ENDED = "2026-06-12T17:00:00Z";

it("is usable after the hours that the work forbids, in whatever zone it ended", () => {
  expect(usableAgain({ hours: 12 }, ENDED, [])).toEqual({ from: "2026-06-13T05:00:00.000Z", waitsFor: null });
  expect(usableAgain({ hours: 12 }, "2026-06-12T18:00:00+01:00", []).from).toBe("2026-06-13T05:00:00.000Z");
  expect(usableAgain({ hours: 0.5 }, ENDED, []).from).toBe("2026-06-12T17:30:00.000Z");
  expect(usableAgain({}, ENDED, []).from).toBe("2026-06-12T17:00:00.000Z");
});

it("waits for what has to be done first, however long ago it was done before", () => {
  const rule = { done: "refill" };
  expect(usableAgain(rule, ENDED, [])).toEqual({ from: null, waitsFor: "refill" });
  expect(usableAgain(rule, ENDED, ["2026-06-12T16:59:59Z"])).toEqual({ from: null, waitsFor: "refill" });
  expect(usableAgain(rule, ENDED, ["2026-06-16T08:00:00Z", "2026-06-15T07:00:00Z", "2026-06-01T07:00:00Z"])).toEqual({
    from: "2026-06-15T07:00:00.000Z",
    waitsFor: null,
  });
});

it("needs both when both are said: the later counts", () => {
  const rule = { done: "refill", hours: 24 };
  expect(usableAgain(rule, ENDED, ["2026-06-12T18:00:00Z"]).from).toBe("2026-06-13T17:00:00.000Z");
  expect(usableAgain(rule, ENDED, ["2026-06-15T07:00:00Z"]).from).toBe("2026-06-15T07:00:00.000Z");
  expect(usableAgain(rule, ENDED, [])).toEqual({ from: null, waitsFor: "refill" });
});

it.each([
  [{ hours: 1 }, "2026-06-12T17:00", [], "endedAt"],
  [{ done: "refill" }, ENDED, ["yesterday"], "done[0]"],
  [{ hours: -1 }, ENDED, [], "rule.hours"],
  [{ hours: Number.NaN }, ENDED, [], "rule.hours"],
  [{ hours: Infinity }, ENDED, [], "rule.hours"],
])("refuses %j after %s and %j", (rule, at, done, path) => {
  expect(() => usableAgain(rule, at, done)).toThrow(expect.objectContaining({ path }) as Error);
});
