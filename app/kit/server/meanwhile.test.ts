import { type FieldWords, seenOf } from "./meanwhile.server";

interface Settings {
  name: string;
  hours: string | null;
  options: string[];
}
const WORDS: FieldWords<Settings> = { name: ["Name"], hours: ["Hours"], options: ["Options"] };
const settings: Settings = { name: "Oven", hours: null, options: ["a", "b"] };

it("what a form was filled from changes with what it shows, and with nothing else", () => {
  const seen = seenOf(settings, WORDS);
  expect(seen).toMatch(/^[0-9a-f]{16}$/);
  expect(seenOf({ options: ["a", "b"], hours: null, name: "Oven" }, WORDS)).toBe(seen);
  expect(seenOf({ ...settings, id: "7", changedAt: 1 } as Settings, WORDS)).toBe(seen);
  expect(seenOf({ name: "Oven", options: ["a", "b"] } as unknown as Settings, WORDS)).toBe(seen);
  for (const other of [
    { ...settings, name: "Oven " },
    { ...settings, hours: "" },
    { ...settings, options: ["b", "a"] },
  ])
    expect(seenOf(other, WORDS)).not.toBe(seen);
});
