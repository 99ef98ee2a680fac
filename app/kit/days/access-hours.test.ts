import { accessLines, closedWeekdays, parseAccessHours } from "./access-hours";

it.each([
  ["05:30-09:00", ["Monday to Sunday 05:30–09:00"]],
  [
    "Mon-Fri 07:00-11:30, 14:00-18:00; Sat 8:00–12:00",
    ["Monday to Friday 07:00–11:30, 14:00–18:00", "Saturday 08:00–12:00", "Sunday no access"],
  ],
  [
    "Mo, We 09:00-10:00; Su closed",
    [
      "Monday 09:00–10:00",
      "Tuesday no access",
      "Wednesday 09:00–10:00",
      "Thursday to Saturday no access",
      "Sunday closed",
    ],
  ],
  ["Sat-Mon 10:00-24:00", ["Monday 10:00–24:00", "Tuesday to Friday no access", "Saturday to Sunday 10:00–24:00"]],
  ["", []],
])("%s", (text, lines) => expect(accessLines(text)).toEqual(lines));

it("knows the closed weekdays, none where nothing is said or understood", () => {
  expect(closedWeekdays("Mon-Fri 07:00-15:00; Sat, Sun closed")).toEqual([6, 7]);
  expect(closedWeekdays("Mon-Fri 07:00-15:00")).toEqual([]);
  expect(closedWeekdays("")).toEqual([]);
  expect(closedWeekdays("ring the bell")).toEqual([]);
});

it.each(["ring the bell", "Xx 07:00-08:00", "Mon 25:00-26:00", "Mon 15:00-07:00", "Mon"])(
  "says what it does not understand: %s",
  (text) => expect(() => parseAccessHours(text)).toThrow(/"|ends/),
);
