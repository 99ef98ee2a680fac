import type { DayFigures } from "@core";

import { latenessOf, waysOf } from "./week-ground.server";

const figures = (way: number): DayFigures => ({
  ...{
    backAt: 900,
    onSite: 100,
    way,
    waiting: 0,
    packed: 80,
    oneByOne: 100,
    duties: 2,
    late: 0,
    overtime: 0,
    holds: 1,
  },
});

it("tells the ways of proposed days against the least for their sites", () => {
  const ground = {
    sites: [
      { id: "a", accessHours: "" },
      { id: "b", accessHours: "" },
      { id: "far", accessHours: "" },
    ],
    travel: [
      [0, 20, 20, 90],
      [20, 0, 4, 90],
      [20, 4, 0, 90],
      [90, 90, 90, 0],
    ],
  };
  const slots = [
    { day: 0, duties: ["x"], order: ["a"], hands: new Map([["a", 100]]), room: 480, figures: figures(40) },
    { day: 1, duties: ["y"], order: ["b"], hands: new Map([["b", 100]]), room: 480, figures: figures(40) },
    { day: 2, duties: [], order: ["far"], hands: new Map([["far", 9]]), room: 480, figures: figures(180) },
  ];
  // Both on one day: out, across, and back.
  expect(waysOf(ground, slots)).toEqual({ minutes: 80, least: 44 });
  // Not on one when there is no room for both.
  const tight = slots.map((slot) => ({ ...slot, room: 150 }));
  expect(waysOf(ground, tight).least).toBe(80);
});

it("tells which late duties could not come before", () => {
  const due = { early: 0, closed: 1, time: 4 } as Record<string, number>;
  const slots = [
    { day: 3, duties: ["early", "closed"], order: [], hands: new Map(), room: 480, figures: null },
    { day: 2, duties: ["time"], order: [], hands: new Map(), room: 480, figures: null },
  ];
  const late = latenessOf(slots, {
    dutyOf: (id) => id,
    dueOf: (id) => due[id] ?? 0,
    couldBe: (id) => id !== "closed",
  });
  expect(late).toEqual({ duties: 2, unavoidable: 1 });
});
