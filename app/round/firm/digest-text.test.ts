import { type Digest, digestText, isEmpty } from "./digest-text";

const none: Digest = { overdue: [], hardStops: [], unsafe: [], majors: [] };
const line = (what: string) => ({ what, where: "Works", when: "since Mon 30 Nov" });

it("says what nobody has taken up, the worst first, and how many more there are", () => {
  const text = digestText(
    { ...none, overdue: Array.from({ length: 12 }, (_, i) => line(`Oven ${i}`)), unsafe: [line("Tunnel")] },
    "Jonas",
    "https://hound.example/round",
  );
  expect(text).toContain("Out of service as unsafe: 1\n- Tunnel, Works, since Mon 30 Nov");
  expect(text.indexOf("Out of service")).toBeLessThan(text.indexOf("Overdue"));
  expect(text).toContain("Overdue, on nobody's day: 12\n- Oven 0,");
  expect(text).toContain("- Oven 9, Works, since Mon 30 Nov\nand 2 more");
  expect(text).not.toContain("Oven 10,");
  expect(text).not.toContain("Major");
  expect(text.endsWith("https://hound.example/round")).toBe(true);
});

it("is nothing when everything is taken up", () => {
  expect(isEmpty(none)).toBe(true);
  expect(isEmpty({ ...none, majors: [line("x")] })).toBe(false);
});
