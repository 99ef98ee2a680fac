import { grades, inWords, type Step, surfaces } from "@core";

import { type Choice, emptyOf, f, type FieldKind, type FieldSpec } from "./field-kinds";
import { GATES } from "./gate-names";
import { sources } from "./sources";
import { CALCULATOR, FIGURE, RECIPE } from "./step-forms";

const must = { required: true };
const asChoices = (ids: readonly string[]): Choice[] => ids.map((id) => ({ id, name: inWords(id) }));
const SURFACES = asChoices(surfaces);
const GRADES = asChoices(grades);

const CONDITION: FieldKind = {
  one: "condition",
  many: true,
  of: (value) => (value !== null && typeof value === "object" && "option" in value ? "option" : "step"),
  variants: {
    option: {
      name: "An option of the machine",
      fields: [
        f("option", "Option", { pick: sources.options }, must),
        f("fitted", "It is fitted", "yes", { required: true }),
      ],
      empty: { option: "", fitted: true },
    },
    step: {
      name: "What an earlier step came to",
      fields: [
        f("step", "Step", { pick: sources.earlierSteps }, must),
        f("is", "Came to", { pick: sources.answers }, must),
      ],
      empty: { step: "", is: "" },
    },
  },
};

/** Fields that any step may have. */
export const COMMON_FIELDS: readonly FieldSpec[] = [
  f("title", "Title", "line", must),
  f("text", "What to know", "text"),
  f("minutes", "Hands-on minutes", "number"),
];

/** Fields of the newer form that any step may have. */
export const NEWER_FIELDS: readonly FieldSpec[] = [
  f(
    "state",
    "What the machine has to be in",
    { some: sources.states },
    {
      hint: "States are set up beside the steps; gates into them and out of them are put in by themselves.",
    },
  ),
  f("critical", "Critical: left out or cut short, the duty stays due", "yes"),
];

/** What comes off, goes its own way and goes back on. */
export const PART_FIELDS: readonly FieldSpec[] = [
  f("takesOff", "Comes off here", {
    list: [
      f("item", "What", "line", must),
      f("count", "How many", "number", must),
      f("wayRound", "Which way round"),
      f("place", "Where it is put"),
    ],
    one: "part that comes off",
    empty: { item: "", count: 1 },
  }),
  f("opens", "Begins a way on the bench", "short", { hint: "Named after the parts: their own steps follow on it." }),
  f("path", "Goes on the bench with", { pick: sources.paths }, { hint: "None: at the machine itself." }),
  f("putsBack", "Goes back on here", {
    list: [f("item", "What", { pick: sources.partsOff, own: "text" }, must), f("count", "How many", "number", must)],
    one: "part that goes back on",
    empty: { item: "", count: 1 },
  }),
];

/** The same in the older form of the format. */
export const OLDER_PART_FIELDS: readonly FieldSpec[] = [
  f("removes", "Comes off here", "lines"),
  f("refits", "Goes back on here", "lines"),
];

/** Fields that any step may have and few need. */
export const RARE_FIELDS: readonly FieldSpec[] = [
  f("when", "Only when", CONDITION),
  f("uses", "Uses", {
    list: [f("item", "Material", { pick: sources.materials }, must), f("qty", "How much", "number", must)],
    one: "material",
    empty: { item: "", qty: 1 },
  }),
  f("surfaces", "Touches", { some: () => SURFACES }, { hint: "What it uses must not harm it." }),
  f("forbids", "Never with", { some: () => GRADES }),
  f("rinses", "Rinses away what was applied", "yes"),
  f("needs", "Shared place it takes", "shorts", { hint: "Such as sink, hood or hose: one machine at a time." }),
  f("beforehand", "Asked of the customer beforehand", "line", {
    hint: "Only what their own people may do: “Please empty the bin”.",
  }),
  f("area", "Area", "line", { hint: "A heading for long lists." }),
  f("figure", "Schematic", FIGURE),
];

const SLOTS = [
  f("item", "Part", { pick: sources.parts }, must),
  f("slots", "Where", { some: sources.slots }, { ...must, hint: "Of a pair always both." }),
];

/** Of the newer form of the format alone; in the older one they are refused with the reason. */
const MEASURE_NEWER = [
  f(
    "possible",
    "What it can be at all",
    { record: [f("min", "Not below", "number"), f("max", "Not above", "number")] },
    { hint: "What is beyond was typed wrong, and is refused." },
  ),
  f("wears", "Tells the wear of", {
    record: [
      f("item", "Part", { pick: sources.parts }, must),
      f("slots", "Where, in the order of the points", { some: sources.slots }, must),
      f("per", "Wears by", { pick: sources.bases }, must),
      f(
        "worse",
        "Gets worse",
        {
          choices: [
            ["up", "upwards"],
            ["down", "downwards"],
          ],
        },
        must,
      ),
      f("worst", "The points are several places of each: the worst counts", "yes"),
    ],
  }),
];

export const KIND_FIELDS: Record<Step["kind"], readonly FieldSpec[]> = {
  safety: [
    f("checks", "Checks", "lines", must),
    f("gates", "Makes safe by", { some: () => GATES }),
    f("coolDown", "Cool-down", {
      record: [f("belowC", "Opens below, °C", "number"), f("minutes", "or after, minutes", "number")],
    }),
  ],
  do: [],
  inspect: [
    f("asItShouldBe", "As it should be", "text", must),
    f("ifNot", "If not", "text", must),
    f(
      "finding",
      "Logs a finding",
      {
        choices: [
          ["minor", "minor"],
          ["major", "major"],
          ["unsafe", "unsafe"],
        ],
      },
      { hint: "Unsafe takes the machine out of service." },
    ),
  ],
  measure: [
    f("reading", "Name of the reading", "short", { ...must, hint: "Trends over the years go by it." }),
    f("unit", "Unit", "line", must),
    f(
      "limits",
      "Limits",
      {
        record: [
          f("min", "At least", "number"),
          f("max", "At most", "number"),
          f("above", "Above", "number"),
          f("below", "Below", "number"),
        ],
      },
      { hint: "At least and at most belong to the band; above and below do not." },
    ),
    f("ofClean", "Limits as ratios to the machine when clean", {
      record: [
        f("reading", "Reading when clean", { pick: sources.readings, own: "short" }, must),
        f("min", "At least, times", "number"),
        f("max", "At most, times", "number"),
      ],
    }),
    f("target", "Target", "number"),
    f("advice", "What to do", { record: [f("low", "When too low", "text"), f("high", "When too high", "text")] }),
    f("retest", "Adjust and measure again until within limits", "yes"),
    f("points", "Points", "lines", { hint: "One reading at each." }),
    f("trials", "Runs", "number", { hint: "The same thing measured so many times." }),
    f("judge", "Judged by", {
      choices: [
        ["each", "each value"],
        ["mean", "their mean"],
        ["spread", "their spread"],
      ],
    }),
    f("meter", "Is this meter", { pick: sources.meters }),
    f("instrument", "Instrument", "short", { hint: "Its kind, such as feeler gauge." }),
    f("stage", "Is always", {
      choices: [
        ["as-found", "as found"],
        ["as-left", "as left"],
      ],
    }),
    f("calculator", "Calculator", CALCULATOR),
    ...MEASURE_NEWER,
  ],
  wait: [
    f("minMinutes", "At least, minutes", "number", must),
    f("maxMinutes", "At most, minutes", "number"),
    f("meanwhile", "Steps to do meanwhile", { some: sources.laterSteps }),
    f("attended", "Somebody must stand by", "yes"),
    f("silent", "No alarm before the maximum: passing it harms nothing", "yes"),
    f("ifShort", "When cut short", "text"),
    f("ifLong", "When over the maximum", "text"),
  ],
  mix: [f("recipe", "Recipe", RECIPE, must)],
  count: [f("times", "Times", "number", must), f("each", "Each is called", "line", must)],
  replace: [
    ...SLOTS,
    f("some", "Those found worn alone", "yes", { hint: "At least one; otherwise each place gets a new one." }),
  ],
  turn: SLOTS,
  repeat: [
    f("from", "Goes back to the step", { pick: sources.earlierSteps }, must),
    f("question", "Question", "line", must),
    f("clean", "Answer that goes on", "line", must),
    f("again", "Answer that repeats", "line", must),
    f("maxRounds", "Most passes", "number"),
  ],
  choose: [
    f("question", "Question", "line", must),
    f(
      "schools",
      "Ways, the first is the usual one",
      {
        list: [f("name", "Way", "line", { ...must, names: "id" }), f("why", "Why", "text", must)],
        one: "way",
        empty: { id: "", name: "", why: "" },
      },
      must,
    ),
  ],
  decide: [
    f("question", "Question", "line", must),
    f(
      "branches",
      "Answers",
      {
        list: [f("name", "Answer", "line", { ...must, names: "id" }), f("leadsTo", "Leads to")],
        one: "answer",
        empty: { id: "", name: "" },
      },
      must,
    ),
  ],
  reset: [f("meter", "Meter", { pick: sources.meters }, must), f("expect", "Shows afterwards", "number", must)],
  prove: [
    f("expect", "Expected", "text", must),
    f("functions", "Tried one by one", {
      list: [f("name", "Function", "line", { ...must, names: "id" }), f("place", "Where")],
      one: "function",
      empty: { id: "", name: "" },
    }),
    f("proof", "Proof", {
      choices: [
        ["leak-check", "leak check"],
        ["test-piece", "test piece"],
        ["check-fluid", "check fluid"],
        ["function-test", "function test"],
        ["first-output", "first output"],
      ],
    }),
  ],
  // Made from a fault guide, which has an editor of its own.
  find: [],
  "hand-off": [f("to", "To whom", "line", must)],
  nested: [f("procedure", "Procedure", { pick: sources.procedures }, must), f("version", "Version", "number", must)],
};

/** A new step of a kind, ready to be filled in. */
export function emptyStep(kind: Step["kind"], id: string): Step {
  const step: Record<string, unknown> = { id, kind, title: "" };
  for (const { field, kind: type, required } of KIND_FIELDS[kind]) {
    if (!required) continue;
    step[field] = NEW[field] ?? (type === "number" ? 1 : emptyOf(type));
  }
  return step as unknown as Step;
}

const NEW: Record<string, unknown> = {
  recipe: { by: "dilution", stock: "", target: { ppm: 100 }, finalMl: 1000 },
  schools: [
    { id: "first", name: "", why: "" },
    { id: "second", name: "", why: "" },
  ],
  branches: [
    { id: "yes", name: "Yes" },
    { id: "no", name: "No" },
  ],
};
