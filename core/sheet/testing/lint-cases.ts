import type { Procedure, Step } from "../procedure";
import { BLADES, doing, GATE, PROOF, sample } from "./sample";

export const base = sample();
export const steps = (...inner: Step[]): Partial<Procedure> => ({ steps: [GATE, ...inner, PROOF] });
export const acid = { item: "descaler", name: "Descaler", qty: 1, unit: "mL", chemical: "acid" } as const;
export const bleach = { item: "bleach", name: "Bleach", qty: 1, unit: "mL", chemical: "hypochlorite" } as const;
const counter = { id: "counter", name: "Counter", unit: "h", service: true };
export const acidFirst = doing("acid", { uses: [{ item: "descaler", qty: 1 }] });
export const bleachNext = doing("chlorine", { uses: [{ item: "bleach", qty: 1 }] });

const rinse = (id: string): Step => doing(id, { rinses: true });
const again = (from: string): Step => ({
  id: "again",
  kind: "repeat",
  title: "Clean?",
  from,
  question: "Clean?",
  clean: "Clean",
  again: "Again",
});
const GAS = { id: "gas", name: "Gas" };
const STEAM = { id: "steam", name: "Steam" };
const gateWhen = (fitted: boolean, option = "gas"): Step => ({ ...GATE, when: [{ option, fitted }] });
const HOT: Partial<Procedure> = { hazards: [{ kind: "hot", text: "Hot" }] };
const COOL: Extract<Step, { kind: "safety" }> = {
  id: "cool",
  kind: "safety",
  title: "Let it cool",
  checks: ["Nobody touches it"],
  gates: ["cool-down"],
  coolDown: { minutes: 30 },
};
const BEARINGS = {
  item: "bearing",
  name: "Bearing",
  pair: true,
  slots: ["top", "bottom"].map((id) => ({ id, name: id })),
};
const renewed = (slot: string): Step => ({ id: slot, kind: "replace", title: slot, item: "bearing", slots: [slot] });

/** Each rule with a procedure that trips it and one that is just as like it and does not. */
export const CASES: [rule: string, name: string, trips: Partial<Procedure>, clean: Partial<Procedure>][] = [
  [
    "make-safe-first",
    "taken apart before the gate",
    { steps: [doing("off", { removes: ["cover"] }), GATE, doing("on", { refits: ["cover"] }), PROOF] },
    steps(doing("off", { removes: ["cover"] }), doing("on", { refits: ["cover"] })),
  ],
  [
    "make-safe-first",
    "the gate is there only with an option",
    {
      options: [{ id: "gas", name: "Gas" }],
      parts: [{ item: "filter", name: "Filter", slots: [{ id: "f", name: "Filter" }] }],
      steps: [
        { ...GATE, when: [{ option: "gas", fitted: true }] },
        { id: "new", kind: "replace", title: "New", item: "filter", slots: ["f"] },
        PROOF,
      ],
    },
    {
      options: [{ id: "gas", name: "Gas" }],
      parts: [{ item: "filter", name: "Filter", slots: [{ id: "f", name: "Filter" }] }],
      steps: [
        { ...GATE, when: [{ option: "gas", fitted: true }] },
        {
          id: "new",
          kind: "replace",
          title: "New",
          item: "filter",
          slots: ["f"],
          when: [{ option: "gas", fitted: true }],
        },
        PROOF,
      ],
    },
  ],
  [
    "cool-down",
    "hot and no cool-down",
    { hazards: [{ kind: "hot", text: "Hot" }] },
    { hazards: [{ kind: "hot", text: "Hot" }], steps: [{ ...GATE, coolDown: { belowC: 40 } }, PROOF] },
  ],
  [
    "cool-down",
    "cooled after it is taken apart",
    {
      hazards: [{ kind: "hot", text: "Hot" }],
      steps: [
        GATE,
        doing("off", { removes: ["lid"] }),
        { ...GATE, id: "cool", gates: ["cool-down"] },
        doing("on", { refits: ["lid"] }),
        PROOF,
      ],
    },
    {
      hazards: [{ kind: "hot", text: "Hot" }],
      steps: [
        GATE,
        { ...GATE, id: "cool", gates: ["cool-down"], coolDown: { minutes: 30 } },
        doing("off", { removes: ["lid"] }),
        doing("on", { refits: ["lid"] }),
        PROOF,
      ],
    },
  ],
  [
    "wait-clock",
    "told to wait in the words of a step",
    steps(doing("soak", { text: "Let it soak for 20 minutes." })),
    steps({ id: "soak", kind: "wait", title: "Soak", minMinutes: 20 }),
  ],
  [
    "wait-clock",
    "a wait without a time",
    steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 0 }),
    steps(doing("w", { text: "Cut short, it stays dirty." })),
  ],
  [
    "wait-clock",
    "a maximum and no alarm",
    steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5, maxMinutes: 9, silent: true }),
    steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5, maxMinutes: 9 }),
  ],
  [
    "rinse-between",
    "chlorine after acid",
    { materials: [acid, bleach], ...steps(acidFirst, bleachNext) },
    { materials: [acid, bleach], ...steps(acidFirst, doing("rinse", { rinses: true }), bleachNext) },
  ],
  [
    "rinse-between",
    "acid after chlorine",
    { materials: [acid, bleach], ...steps(bleachNext, acidFirst) },
    { materials: [acid, bleach], ...steps(bleachNext, doing("rinse", { rinses: true }), acidFirst) },
  ],
  [
    "rinse-between",
    "a rinse that is not always there",
    {
      materials: [acid, bleach],
      options: [{ id: "hose", name: "Hose" }],
      ...steps(acidFirst, doing("rinse", { rinses: true, when: [{ option: "hose", fitted: true }] }), bleachNext),
    },
    {
      materials: [acid, bleach],
      ...steps(
        {
          id: "way",
          kind: "decide",
          title: "Way",
          question: "?",
          branches: [
            { id: "a", name: "A" },
            { id: "b", name: "B" },
          ],
        },
        { ...acidFirst, when: [{ step: "way", is: "a" }] },
        { ...bleachNext, when: [{ step: "way", is: "b" }] },
      ),
    },
  ],
  [
    "rinse-between",
    "both in one mixture",
    {
      materials: [acid, bleach],
      ...steps({
        id: "m",
        kind: "mix",
        title: "Mix",
        recipe: {
          by: "parts",
          parts: [
            { item: "descaler", parts: 1 },
            { item: "bleach", parts: 1 },
          ],
          finalMl: 10,
        },
      }),
    },
    {
      materials: [acid],
      ...steps({
        id: "m",
        kind: "mix",
        title: "Mix",
        recipe: {
          by: "parts",
          parts: [
            { item: "descaler", parts: 1 },
            { item: "water", parts: 1 },
          ],
          finalMl: 10,
        },
      }),
    },
  ],
  [
    "refit",
    "a part stays off",
    steps(doing("off", { removes: ["cover", "screen"] }), doing("on", { refits: ["cover"] })),
    steps(doing("off", { removes: ["cover", "screen"] }), doing("on", { refits: ["cover", "screen"] })),
  ],
  [
    "pair",
    "one of a pair",
    { parts: [BLADES], ...steps({ id: "b", kind: "replace", title: "New", item: "blade", slots: ["l"] }) },
    { parts: [BLADES], ...steps({ id: "b", kind: "replace", title: "New", item: "blade", slots: ["l", "r"] }) },
  ],
  [
    "counter-reset",
    "a counter that stays",
    { meters: [counter] },
    { meters: [counter], ...steps({ id: "r", kind: "reset", title: "Reset", meter: "counter", expect: 0 }) },
  ],
  [
    "counter-reset",
    "of two counters one",
    {
      meters: [counter, { ...counter, id: "other" }],
      ...steps({ id: "r", kind: "reset", title: "Reset", meter: "counter", expect: 0 }),
    },
    { meters: [{ id: "hours", name: "Hours", unit: "h" }] },
  ],
  ["proof-last", "no proof", { steps: [GATE] }, {}],
  [
    "proof-last",
    "a plain step after the proof",
    { steps: [GATE, doing("oil"), PROOF, doing("panels")] },
    { steps: [GATE, doing("oil"), doing("panels"), PROOF] },
  ],
  [
    "make-safe-first",
    "gloves alone stop no machine",
    {
      steps: [{ ...GATE, gates: ["protective"] }, doing("off", { removes: ["lid"] }), doing("on", { refits: ["lid"] })],
    },
    {
      steps: [
        { ...GATE, gates: ["protective", "lock-out"] },
        doing("off", { removes: ["lid"] }),
        doing("on", { refits: ["lid"] }),
      ],
    },
  ],
  [
    "make-safe-first",
    "two gates that leave a machine between them, and two that do not",
    {
      options: [GAS, STEAM],
      steps: [gateWhen(true), { ...gateWhen(true, "steam"), id: "other" }, doing("off", { removes: ["lid"] })],
    },
    {
      options: [GAS],
      steps: [gateWhen(true), { ...gateWhen(false), id: "other" }, doing("off", { removes: ["lid"] })],
    },
  ],
  [
    "cool-down",
    "a gate that stands only when an option is fitted",
    {
      ...HOT,
      options: [GAS],
      steps: [GATE, { ...COOL, when: [{ option: "gas", fitted: true }] }, doing("off", { removes: ["lid"] })],
    },
    {
      ...HOT,
      options: [GAS],
      steps: [
        GATE,
        { ...COOL, when: [{ option: "gas", fitted: true }] },
        { ...COOL, id: "longer", coolDown: { minutes: 60 }, when: [{ option: "gas", fitted: false }] },
        doing("off", { removes: ["lid"] }),
      ],
    },
  ],
  [
    "cool-down",
    "neither a temperature nor a time",
    { ...HOT, steps: [GATE, { ...COOL, coolDown: {} }, doing("off", { removes: ["lid"] })] },
    { ...HOT, steps: [GATE, { ...COOL, coolDown: { belowC: 40 } }, doing("off", { removes: ["lid"] })] },
  ],
  [
    "rinse-between",
    "a block whose second pass puts acid on chlorine: the rinse comes after it",
    {
      materials: [acid, bleach],
      ...steps(acidFirst, rinse("between"), bleachNext, again("acid"), rinse("after")),
    },
    {
      materials: [acid, bleach],
      ...steps(acidFirst, rinse("between"), bleachNext, rinse("after"), again("acid")),
    },
  ],
  [
    "pair",
    "one of a pair, and both in two steps",
    { parts: [BEARINGS], ...steps(renewed("top")) },
    { parts: [BEARINGS], ...steps(renewed("top"), renewed("bottom")) },
  ],
  [
    "proof-last",
    "work after the proof",
    { steps: [GATE, PROOF, doing("on", { refits: ["lid"], removes: ["lid"] })] },
    {
      steps: [
        GATE,
        doing("on", { refits: ["lid"], removes: ["lid"] }),
        PROOF,
        { id: "back", kind: "hand-off", title: "Back", to: "the kitchen" },
      ],
    },
  ],
  [
    "limit-unit",
    "a limit without a unit",
    steps({ id: "m", kind: "measure", title: "Gap", reading: "gap", unit: " ", limits: { max: 2 } }),
    steps({ id: "m", kind: "measure", title: "Gap", reading: "gap", unit: "mm", limits: { max: 2 } }),
  ],
  ["material-listed", "used and not listed", steps(acidFirst), { materials: [acid], ...steps(acidFirst) }],
  ["material-used", "listed and not used", { materials: [acid] }, { materials: [acid], ...steps(acidFirst) }],
  [
    "nested-covered",
    "worked here, and still due",
    steps({ id: "n", kind: "nested", title: "Daily", procedure: "daily", version: 1 }),
    {
      plan: { ...base.plan, covers: ["daily"] },
      ...steps({ id: "n", kind: "nested", title: "Daily", procedure: "daily", version: 1 }),
    },
  ],
  [
    "typical",
    "figures as if they were law",
    { summary: "Ten minutes.", ...steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5 }) },
    { ...steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5 }) },
  ],
];
