import { doing, sample } from "./testing/sample";
import { usualSteps } from "./usual-steps";

const gap = doing("gap", { kind: "measure", reading: "gap", unit: "in", limits: { below: 0.02 } });
const look = doing("look", { kind: "inspect", expect: "Clean" });
const way = doing("way", {
  kind: "choose",
  question: "Which?",
  schools: [
    { id: "hot", title: "Hot" },
    { id: "cold", title: "Cold" },
  ],
});
const worn = doing("worn", {
  kind: "decide",
  question: "Worn?",
  branches: [
    { id: "no", title: "No" },
    { id: "yes", title: "Yes" },
  ],
});
const after = (id: string, step: string, is: string) => doing(id, { when: [{ step, is }] });
const ids = (list: readonly { id: string }[]): string[] => list.map((one) => one.id);
const usual = (steps: Parameters<typeof sample>[0], options: string[] = []) => {
  const { steps: sure, likely } = usualSteps(sample(steps), { options });
  return { sure: ids(sure).slice(1, -1), likely: ids(likely) };
};

it("everything is usual where nothing depends on anything", () => {
  expect(usual([gap, look])).toEqual({ sure: ["gap", "look"], likely: [] });
});

it("a reading is within its band, an inspection as it should be, a choice the first way", () => {
  const steps = [
    gap,
    after("go-on", "gap", "in"),
    after("renew", "gap", "high"),
    look,
    after("polish", "look", "not-ok"),
    after("wax", "look", "ok"),
    way,
    after("heat", "way", "hot"),
    after("chill", "way", "cold"),
    worn,
    after("keep", "worn", "no"),
    after("swap", "worn", "yes"),
  ];
  expect(usual(steps)).toEqual({
    sure: ["gap", "go-on", "look", "wax", "way", "heat", "worn", "keep"],
    likely: ["renew", "polish", "chill", "swap"],
  });
});

it("what follows something unlikely is unlikely too", () => {
  const steps = [gap, after("renew", "gap", "high"), after("test", "renew", "ok")];
  expect(usual(steps)).toEqual({ sure: ["gap"], likely: ["renew", "test"] });
});

it("what is not fitted is neither sure nor likely, found or not", () => {
  const steps = [
    gap,
    doing("filter", { when: [{ option: "water-filter", fitted: true }] }),
    doing("plain", { when: [{ option: "water-filter", fitted: false }] }),
    doing("renew", {
      when: [
        { step: "gap", is: "high" },
        { option: "water-filter", fitted: true },
      ],
    }),
  ];
  expect(usual(steps, ["water-filter"])).toEqual({ sure: ["gap", "filter"], likely: ["renew"] });
  expect(usual(steps)).toEqual({ sure: ["gap", "plain"], likely: [] });
});

it("all conditions of a step count, not the first alone", () => {
  const both = doing("both", {
    when: [
      { step: "gap", is: "in" },
      { step: "look", is: "not-ok" },
    ],
  });
  expect(usual([gap, look, both])).toEqual({ sure: ["gap", "look"], likely: ["both"] });
});
