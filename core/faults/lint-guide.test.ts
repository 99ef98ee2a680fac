import { must } from "../must";
import type { FaultGuide } from "./guide";
import { guideRules, lintGuide } from "./lint-guide";
import { smallGuide } from "./testing/small-guide";

const rulesOf = (spoil: (guide: FaultGuide) => void): string[] => {
  const guide = smallGuide();
  spoil(guide);
  return [...new Set(lintGuide(guide).map((one) => one.rule))];
};

it("finds nothing in a guide that is as it should be", () => expect(lintGuide(smallGuide())).toEqual([]));

const CASES: [string, (guide: FaultGuide) => void][] = [
  ["own-id", (one) => one.checks.push(structuredClone(must(one.checks[0])))],
  ["reference", (one) => must(one.symptoms[0]).causes.push({ cause: "nobody", chance: 1 })],
  ["reference", (one) => Object.assign(must(one.checks[0]), { state: ["drained"] })],
  ["reference", (one) => Object.assign(must(one.checks[0]), { on: [{ option: "wheels", fitted: true }] })],
  [
    "reference",
    (one) =>
      Object.assign(must(one.causes[0]), {
        remedy: [{ id: "a", kind: "replace", title: "New", item: "x", slots: ["y"] }],
      }),
  ],
  ["cause-found", (one) => Object.assign(must(one.checks[1]), { finds: must(one.checks[0]).finds })],
  // Only machines with the option have that check, and the cause is on all of them.
  [
    "cause-found",
    (one) => {
      one.options.push({ id: "wheels", name: "Wheels" });
      Object.assign(must(one.checks[1]), { on: [{ option: "wheels", fitted: true }] });
      Object.assign(must(one.symptoms[0]), { on: [{ option: "wheels", fitted: false }] });
    },
  ],
  ["cause-behind", (one) => must(one.symptoms[0]).causes.pop()],
  [
    "check-needed",
    (one) => {
      must(one.symptoms[0]).causes.pop();
      must(one.checks[1]).finds.shift();
    },
  ],
  ["way-out", (one) => delete must(one.causes[0]).remedy],
  ["way-out", (one) => Object.assign(must(one.causes[0]), { who: "licensed" })],
  ["power-under-lock", (one) => Object.assign(must(one.checks[1]), { how: "Switch on and look inside." })],
  ["power-under-lock", (one) => Object.assign(must(one.checks[1]), { state: ["locked", "running"] })],
  [
    "licensed-work",
    (one) => Object.assign(must(one.causes[0]), { remedy: [{ id: "a", kind: "do", title: "Fill refrigerant" }] }),
  ],
  ["handling", (one) => Object.assign(must(one.causes[0]), { handling: { damage: "Hosed", lesson: " " } })],
];
it.each(CASES)("%s", (rule, spoil) => expect(rulesOf(spoil)).toContain(rule));

it("every rule is tried here", () =>
  expect([...new Set(CASES.map(([rule]) => rule))].sort()).toEqual(
    guideRules()
      .map((one) => one.rule)
      .sort(),
  ));
