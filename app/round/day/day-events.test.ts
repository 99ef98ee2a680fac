import { lastToTakeBack, standing } from "./day-events";

type Type = Parameters<typeof standing>[0][number]["type"];
const event = (id: string, type: Type, ref?: string) => ({ id, type, body: ref === undefined ? {} : { ref } });

describe("what stands of a day", () => {
  it("is what was not taken back, in its order", () => {
    const logged = [
      event("a", "started"),
      event("b", "arrived"),
      event("c", "undone", "b"),
      event("d", "arrived"),
      event("e", "left"),
      event("f", "undone", "e"),
    ];
    expect(standing(logged).map((one) => one.id)).toEqual(["a", "d"]);
  });

  it("is all of it when nothing was, or what was taken back is unknown", () => {
    expect(standing([])).toEqual([]);
    expect(standing([event("a", "started"), event("b", "undone", "z")]).map((one) => one.id)).toEqual(["a"]);
  });
});

describe("what can be taken back", () => {
  it.each([
    ["the start", [event("a", "started")], "a"],
    ["an arrival, planned anew since", [event("a", "started"), event("b", "arrived"), event("c", "replanned")], "b"],
    ["a leaving", [event("b", "arrived"), event("c", "left")], "c"],
    ["the end", [event("a", "started"), event("b", "ended")], "b"],
  ])("is %s", (_, events, id) => {
    expect(lastToTakeBack(events)?.id).toBe(id);
  });

  it.each([
    ["before anything happened", []],
    ["what comes before a site that was left out", [event("a", "started"), event("b", "skipped")]],
    ["what comes before the rest was handed over", [event("a", "started"), event("b", "handed-over")]],
  ])("is nothing %s", (_, events) => {
    expect(lastToTakeBack(events)).toBeNull();
  });
});
