import { breaksAhead, restedOn, restingUntil } from "./breaks";

const rules = [
  { minutes: 30, from: 180, by: 300 },
  { minutes: 15, from: 360, by: 450 },
];
const event = (type: string, minute: number, body = {}) => ({ type, siteId: null, minute, body });

it("of a person's breaks those are ahead that were not logged, by the day's own beginning", () => {
  expect(breaksAhead(rules, 420, [event("started", 425)])).toEqual([
    { minutes: 30, from: 600, by: 720 },
    { minutes: 15, from: 780, by: 870 },
  ]);
  expect(breaksAhead(rules, 420, [event("started", 425), event("rested", 610, { minutes: 30 })])).toEqual([
    { minutes: 15, from: 780, by: 870 },
  ]);
  expect(breaksAhead([], 420, [])).toEqual([]);
});

it("a break that goes on ends when it is over; one that one has had is over at once", () => {
  const begun = [event("rested", 610, { minutes: 30 })];
  expect(restingUntil(begun, 620)).toBe(640);
  expect(restingUntil(begun, 640)).toBeNull();
  const had = [event("rested", 800, { minutes: 30, over: true })];
  expect(restingUntil(had, 800)).toBeNull();
  expect(restedOn(had)).toEqual([{ site: null, from: 770, minutes: 30 }]);
  expect(restedOn([event("left", 500)])).toEqual([]);
});
