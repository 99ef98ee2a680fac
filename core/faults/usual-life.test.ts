import { usualLife } from "./usual-life";

it("is the guide's figure until a cause has come back often enough, then the middle of what was seen", () => {
  expect(usualLife([], 60)).toEqual({ days: 60, measured: null });
  expect(usualLife([10, 20, 30, 40], 60)).toEqual({ days: 60, measured: null });
  expect(usualLife([], null)).toBeNull();
  expect(usualLife([90, 10, 20, 40, 30], 60)).toEqual({ days: 30, measured: 5 });
  expect(usualLife([10, 20, 30, 40, 50, 1000], null)).toEqual({ days: 35, measured: 6 });
  expect(() => usualLife([-1], 5)).toThrow();
});
