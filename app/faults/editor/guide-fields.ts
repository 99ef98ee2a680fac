import type { RemedyKind } from "@core";

import { SECTIONS } from "~/procedures/editor/about-fields";
import { f, type FieldKind, type FieldSpec, nameIn, type Variant } from "~/procedures/editor/field-kinds";
import { sources } from "~/procedures/editor/sources";
import { COMMON_FIELDS, emptyStep, KIND_FIELDS } from "~/procedures/editor/step-fields";
import { STEP_KINDS } from "~/procedures/editor/step-words";

const must = { required: true };
/** Ids of a guide are kept in narrow columns. */
const NAMES = { ...must, names: "id", longest: 40 } as const;
const causes: Extract<FieldKind, { pick: unknown }> = { pick: (around) => around.causes ?? [] };

const ON = f("on", "Only of machines", {
  list: [f("option", "Option", { pick: sources.options }, must), f("fitted", "It is fitted", "yes", must)],
  one: "option",
  empty: { option: "", fitted: true },
});

/** What the operator says, and what can be behind it. */
export const SYMPTOM_FIELDS: readonly FieldSpec[] = [
  f("says", "What the operator says", "line", { ...NAMES, hint: "In their own words." }),
  f("also", "Other words for the same", "lines"),
  f("causes", "What can be behind it", {
    list: [
      f("cause", "Cause", causes, must),
      f("chance", "How often, in any scale", "number", { ...must, hint: "Typical; what is found takes over." }),
    ],
    one: "cause",
    empty: { cause: "", chance: 1 },
  }),
  f("proof", "How it shows that it is gone", "text", must),
  f("tell", "What the operator is told in any case", "text"),
  ON,
];

export const CHECK_FIELDS: readonly FieldSpec[] = [
  f("title", "Check", "line", NAMES),
  f("how", "What to do, and what to look at", "text", must),
  f("state", "What the machine has to be in", { some: sources.states }),
  f("minutes", "Hands-on minutes, the way there not counted", "number", must),
  f("clear", "What it shows when all is well", "text", must),
  f("finds", "What it can show", {
    list: [
      f("cause", "Cause", causes, must),
      f("shows", "What it looks like", "text", must),
      f("share", "How often it shows it, 0 to 1", "number", { ...must, hint: "1 where looking settles it." }),
    ],
    one: "finding",
    empty: { cause: "", share: 0.9, shows: "" },
  }),
  ON,
];

const REMEDY_KINDS: readonly RemedyKind[] = ["do", "inspect", "measure", "wait", "count", "replace", "turn", "mix"];

const REMEDY: FieldKind = {
  one: "step",
  many: true,
  of: nameIn("kind"),
  variants: Object.fromEntries(
    REMEDY_KINDS.map((kind): [string, Variant] => [
      kind,
      {
        name: STEP_KINDS[kind],
        fields: [
          ...COMMON_FIELDS.map((one) => (one.field === "title" ? { ...one, ...NAMES } : one)),
          f("state", "What the machine has to be in", { some: sources.states }),
          ...KIND_FIELDS[kind],
        ],
        empty: { ...emptyStep(kind, "") },
      },
    ]),
  ),
};

export const CAUSE_FIELDS: readonly FieldSpec[] = [
  f("name", "Cause", "line", NAMES),
  f(
    "who",
    "Who may remedy it",
    {
      choices: [
        ["operator", "The operator"],
        ["technician", "A technician"],
        ["authorised", "Authorised by the maker"],
        ["licensed", "Licensed by law"],
      ],
    },
    must,
  ),
  f("remedy", "What is done about it here", REMEDY),
  f("handOff", "Handed over", {
    record: [f("to", "To whom", "line", must), f("say", "What they are told", "text", must)],
  }),
  f("interim", "What holds meanwhile", {
    record: [f("text", "What", "line", must), f("until", "Until", "line", must)],
  }),
  f("outOfService", "Why nobody may use it with this", "text", { hint: "Empty: it may be used." }),
  f("usualLifeDays", "Days after which it is no surprise again", "number"),
  f("handling", "It comes of how it is handled", {
    record: [
      f("damage", "What was done to it", "line", must),
      f("lesson", "What the operator should know", "text", must),
    ],
  }),
  ON,
];

const ABOUT_GUIDE: readonly FieldSpec[] = [
  f("title", "Title", "line", must),
  f("summary", "Summary", "text", {
    ...must,
    hint: "Chances are typical: the maker's manual and local rules come first.",
  }),
];

const OF_PROCEDURES = ["states", "materials", "machine", "safety"];
/** A guide has no duty that it leaves something for, and no meters. */
const NOT_OF_GUIDES = ["leaves", "begins", "meters"];

/** What a guide is beside its lists; much of it as a procedure has it. */
export const ABOUT: readonly { id: string; title: string; fields: readonly FieldSpec[] }[] = [
  { id: "about", title: "What it is", fields: ABOUT_GUIDE },
  ...SECTIONS.filter(({ id }) => OF_PROCEDURES.includes(id)).map(({ id, title, fields }) => ({
    ...{ id, title: id === "machine" ? "Options" : title },
    fields: fields.filter(({ field }) => !NOT_OF_GUIDES.includes(field)),
  })),
];

/** The three lists of a guide. */
export const LISTS = {
  symptoms: {
    title: "What the operator says",
    one: "symptom",
    named: "says",
    fields: SYMPTOM_FIELDS,
    empty: { id: "", says: "", proof: "", causes: [] },
  },
  checks: {
    title: "Checks",
    one: "check",
    named: "title",
    fields: CHECK_FIELDS,
    empty: { id: "", title: "", how: "", minutes: 5, clear: "", finds: [] },
  },
  causes: {
    title: "Causes",
    one: "cause",
    named: "name",
    fields: CAUSE_FIELDS,
    empty: { id: "", name: "", who: "technician" },
  },
} as const;
export type ListName = keyof typeof LISTS;
