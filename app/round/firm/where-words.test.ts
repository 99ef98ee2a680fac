import { whereIs } from "./where-words";

const stop = (site: string, arrive: number) =>
  ({ site, arrive, begin: arrive + 5, leave: arrive + 60, late: 0, oneByOne: 0 }) as never;
const plan = { stops: [stop("a", 480), stop("b", 560)], endAt: 640 };
const at = (type: string, siteId: string | null, minute: number) => ({ type, siteId, minute });
const name = (id: string): string => `Site ${id}`;

it.each([
  ["open", null, [], 500, "no plan yet", 0],
  ["open", plan, [], 470, "not started; Site a at 08:00", 0],
  ["open", plan, [], 500, "not started; Site a at 08:00", 20],
  ["open", plan, [], 900, "was not started", 0],
  ["started", plan, [at("started", null, 470)], 484, "on the way to Site a, 08:00", 0],
  ["started", plan, [at("arrived", "a", 481)], 530, "at Site a since 08:01, until 09:00", 0],
  ["started", plan, [at("arrived", "a", 481)], 555, "at Site a since 08:01, until 09:00", 15],
  ["started", plan, [at("arrived", "a", 481), at("left", "a", 545)], 590, "on the way to Site b, 09:20", 30],
  ["started", plan, [at("left", "a", 545), at("skipped", "b", 546)], 590, "on the way back, 10:40", 0],
  ["started", plan, [at("arrived", "x", 590)], 700, "at Site x since 09:50", 0],
  ["ended", plan, [at("ended", null, 630)], 700, "ended at 10:30", 0],
] as const)("%s, %#", (...row) => {
  const [status, given, events, now, says, slips] = row;
  expect(whereIs(status, given, events, now, name)).toEqual({ says, slips });
});
