import { type Announcement, askInWords, bandInWords, savedBy, subjectOf, textOf } from "./message-text";

const said: Announcement = {
  toName: "Ana Vale",
  person: "Mira Holt",
  on: "2026-11-30",
  site: "Harbour school",
  arrive: 503,
  early: 496,
  late: 512,
  until: 621,
  work: ["Conveyor oven: weekly clean"],
  asks: ["Conveyor oven: please switch it off by 07:15 and let it cool"],
  saves: 45,
  link: "https://hound.example/answer/abc",
  note: "The side door, please.",
};

it("tells the hour with its band, rounded outwards", () => {
  expect(bandInWords(said)).toBe("between 08:15 and 08:35");
  expect(bandInWords({ early: 500, late: 500 })).toBe("about 08:20");
  expect(subjectOf(said)).toBe("Harbour school: we come on Monday 30 November, about 08:20");
});

it("says who comes, what is done, what is asked for and what it saves, and where to answer", () => {
  expect(textOf(said)).toBe(`Good day Ana Vale,

Mira Holt comes on Monday 30 November, between 08:15 and 08:35, and is done by about 10:25.

What is done:
- Conveyor oven: weekly clean

You can save us both 45 min, if this is done before:
1. Conveyor oven: please switch it off by 07:15 and let it cool

Only by people of yours who may do it, and only where it is safe. What is not done we do when we are there.
Please say what you can do: https://hound.example/answer/abc

The side door, please.

Mira Holt`);
});

it("is an announcement alone when nothing is asked for", () => {
  const text = textOf({ ...said, asks: [], note: "", toName: "" });
  expect(text).toContain("Good day,\n");
  expect(text).not.toMatch(/save|answer/);
});

it("asks in the sheet's words, by the time it is needed", () => {
  const oven = { machineName: "Oven 2", text: null };
  expect(askInWords({ ...oven, kind: "cool" }, 438)).toBe("Oven 2: please switch it off by 07:15 and let it cool");
  expect(askInWords({ ...oven, kind: "free" }, 480)).toBe("Oven 2: please keep it free for us from 08:00");
  expect(askInWords({ kind: "do", machineName: "Bin", text: "Please empty the bin" }, 480)).toBe(
    "Bin: please empty the bin, by 08:00",
  );
});

it("saves what the best do together, and of another choice what is sure", () => {
  const [a, b, c] = [
    { id: "a", alone: 30, best: true },
    { id: "b", alone: 20, best: true },
    { id: "c", alone: 25, best: false },
  ] as const;
  const site = { saved: 45, asks: [a, b, c] };
  expect(savedBy(site, [a, b])).toBe(45);
  expect(savedBy(site, [b, c])).toBe(25);
  expect(savedBy(site, [a])).toBe(30);
  expect(savedBy(site, [])).toBe(0);
});
