import { chemicalClasses, grades, inWords, type Procedure } from "@core";

import { WEEKDAY_NAMES } from "~/kit/days/access-hours";

import { f, type FieldKind, type FieldSpec, nameIn } from "./field-kinds";
import { GATES } from "./gate-names";
import { sources } from "./sources";

const must = { required: true };
const UNITS: FieldKind = {
  choices: [
    ["day", "days"],
    ["week", "weeks"],
    ["month", "months"],
    ["year", "years"],
  ],
};
const CALENDAR_BASIS: FieldKind = {
  choices: [
    ["completion", "from the last time"],
    ["grid", "on fixed dates"],
  ],
};
const METER_BASIS: FieldKind = {
  choices: [
    ["completion", "from the last time"],
    ["grid", "at fixed points"],
  ],
};

const TRIGGERS: FieldKind = {
  one: "rule",
  many: true,
  of: nameIn("kind"),
  variants: {
    calendar: {
      name: "By the calendar",
      fields: [
        f("every", "Every", "number", must),
        f("unit", "Unit", UNITS, must),
        f("basis", "Counted", CALENDAR_BASIS, must),
        f("weekday", "Moved on to", {
          pick: () => WEEKDAY_NAMES.map((name, i) => ({ id: String(i + 1), name })),
          numeric: true,
        }),
        f("first", "The first time after", {
          record: [f("every", "So many", "number", must), f("unit", "Unit", UNITS, must)],
        }),
      ],
      empty: { kind: "calendar", every: 1, unit: "month", basis: "completion" },
    },
    meter: {
      name: "By a meter: hours, runs, prints",
      fields: [
        f("meter", "Meter", { pick: sources.meters }, must),
        f("every", "Every", "number", must),
        f("basis", "Counted", METER_BASIS, must),
        f("first", "The first time at", "number"),
      ],
      empty: { kind: "meter", meter: "", every: 100, basis: "completion" },
    },
    event: {
      name: "When something happens",
      fields: [f("event", "What happens", "short", must)],
      empty: { kind: "event", event: "" },
    },
    condition: {
      name: "When a reading is beyond a value",
      fields: [
        f("reading", "Reading", { pick: sources.readings, own: "short" }, must),
        f("above", "Above", "number"),
        f("below", "Below", "number"),
      ],
      empty: { kind: "condition", reading: "", above: 0 },
    },
  },
};

const LEAD: FieldKind = {
  record: [f("days", "Days before", "number"), f("fraction", "or part of the interval, 0 to 1", "number")],
};

const STATE_CHECK = [
  f("checks", "Checks", "lines", must),
  f("minutes", "Hands-on minutes", "number"),
  f("cautions", "Cautions", "lines"),
];

/** Of the newer form of the format alone; in the older one they are refused with the reason. */
const PLAN_NEWER = [
  f("readyBy", "The machine is needed again at, time of day", "line", { hint: "Such as 10:45." }),
  f("notUntil", "Not to be used again", {
    record: [
      f("hours", "for so many hours", "number"),
      f("done", "nor before this was done", { pick: sources.procedures }),
    ],
  }),
];

export interface AboutSection {
  id: string;
  title: string;
  fields: readonly FieldSpec[];
  /** Only in the newer form of the format. */
  newer?: true;
}

/** Everything of a procedure that is not a step, in the order in which it is thought of. */
export const SECTIONS: readonly AboutSection[] = [
  {
    id: "about",
    title: "What it is",
    fields: [
      f("title", "Title", "line", must),
      f("summary", "Summary", "text", {
        ...must,
        hint: "Mark figures as typical: the maker's manual and local rules come first.",
      }),
      f("family", "Family", { pick: sources.families, own: "short" }, { ...must, hint: "Which machines it is for." }),
      f(
        "who",
        "Who does it",
        {
          choices: [
            ["operator", "The operator"],
            ["technician", "A technician"],
            ["licensed", "Licensed or authorised persons only"],
          ],
        },
        must,
      ),
      f("authorisation", "Authorisation needed", "short", { hint: "Such as licensed refrigeration; empty when none." }),
      f(
        "minutes",
        "Minutes",
        { record: [f("handsOn", "Hands-on", "number", must), f("waiting", "Waiting", "number", must)] },
        must,
      ),
    ],
  },
  {
    id: "due",
    title: "Comes due",
    fields: [
      f(
        "plan",
        "Rules, alerts and what follows",
        {
          record: [
            f("triggers", "Rules: the earliest counts", TRIGGERS, must),
            f("notice", "Said beforehand", LEAD),
            f("warning", "Warned of", LEAD),
            f("hardStop", "Hard stop: the machine may not be used once it is missed", "yes"),
            f("scaledByHardness", "Comes sooner where water is hard", "yes"),
            f("idleDays", "Days of closure that count as standing idle", "number"),
            f("covers", "Contains the work of", { some: sources.procedures }),
            f("emits", "Brings about", {
              list: [
                f("event", "What", "short", must),
                f(
                  "on",
                  "When",
                  {
                    choices: [
                      ["same-day", "on the same day"],
                      ["next-open-day", "on the next open day"],
                    ],
                  },
                  must,
                ),
              ],
              one: "event",
              empty: { event: "", on: "same-day" },
            }),
            ...PLAN_NEWER,
          ],
        },
        must,
      ),
    ],
  },
  {
    id: "states",
    title: "States of the machine",
    newer: true,
    fields: [
      f("states", "States, in the order in which a machine gets there", {
        list: [
          f("name", "State", "line", { ...must, names: "id" }),
          f(
            "in",
            "To get in",
            {
              record: [
                ...STATE_CHECK,
                f("gates", "Made safe by", { some: () => GATES }),
                f("waitMinutes", "Reached by itself after, minutes", "number"),
                f("belowC", "or below, °C", "number"),
              ],
            },
            must,
          ),
          f("out", "To get out", { record: STATE_CHECK }),
          f("excludes", "Cannot be together with", { some: sources.otherStates }),
          f("lostBy", "Is lost by", { some: sources.otherStates }),
        ],
        one: "state",
        empty: { id: "", name: "", in: { checks: [] } },
      }),
      f("leaves", "Left for the duty that it brings about", {
        record: [f("states", "Stays in", { some: sources.states }), f("off", "Stays off", { some: sources.partsOff })],
      }),
      f("begins", "Left by the duty that brings this one about", {
        record: [f("off", "Is off", { some: sources.partsBack })],
      }),
    ],
  },
  {
    id: "materials",
    title: "Materials and parts",
    fields: [
      f("materials", "Materials", {
        list: [
          f("name", "Material", { pick: sources.items, own: "text" }, { ...must, names: "item" }),
          f("qty", "How much", "number", must),
          f("unit", "Unit", "line", must),
          f("chemical", "Chemical class", { choices: chemicalClasses.map((id) => [id, inWords(id)] as const) }),
          f("grade", "Grade", { choices: grades.map((id) => [id, inWords(id)] as const) }),
          f("stockPercent", "Strength of the stock, percent", "number"),
        ],
        one: "material",
        empty: { item: "", name: "", qty: 1, unit: "pc" },
      }),
      f("parts", "Parts and where they go", {
        list: [
          f("name", "Part", { pick: sources.items, own: "text" }, { ...must, names: "item" }),
          f(
            "slots",
            "Where",
            {
              list: [f("name", "Place", "line", { ...must, names: "id" })],
              one: "place",
              empty: { id: "", name: "" },
            },
            must,
          ),
          f("pair", "Always all of them together", "yes"),
          f("uses", "Edges or sides of one piece", "number"),
        ],
        one: "part",
        empty: { item: "", name: "", slots: [{ id: "", name: "" }] },
      }),
    ],
  },
  {
    id: "machine",
    title: "Options and meters",
    fields: [
      f("options", "Options a machine may have", {
        list: [f("name", "Option", "line", { ...must, names: "id" })],
        one: "option",
        empty: { id: "", name: "" },
      }),
      f("meters", "Meters", {
        list: [
          f("name", "Meter", "line", { ...must, names: "id" }),
          f("unit", "Unit", "line", must),
          f("service", "Is set back at the end of a service", "yes"),
          f("within", "Runs only while this one runs", { pick: sources.otherMeters }),
        ],
        one: "meter",
        empty: { id: "", name: "", unit: "h" },
      }),
    ],
  },
  {
    id: "safety",
    title: "Hazards and tools",
    fields: [
      f("hazards", "Hazards", {
        list: [
          f(
            "kind",
            "Hazard",
            {
              choices: [
                ["lock-out", "lock out first"],
                ["stored-energy", "stored energy"],
                ["hot", "hot"],
                ["pressure", "pressure"],
                ["moving", "moving parts"],
                ["electric", "electric"],
                ["battery", "battery"],
                ["chemical", "chemical"],
                ["flammable", "flammable"],
                ["uv", "UV light"],
                ["sharp", "sharp"],
                ["heavy", "heavy"],
                ["biohazard", "biohazard"],
                ["waste", "waste"],
              ],
            },
            must,
          ),
          f("text", "In words", "text", must),
        ],
        one: "hazard",
        empty: { kind: "lock-out", text: "" },
      }),
      f("protective", "Protective equipment", "lines", must),
      f("tools", "Tools", "lines", must),
    ],
  },
];

/** The usual states, to begin with (common practice). */
export const USUAL_STATES: NonNullable<Procedure["states"]> = [
  {
    id: "isolated",
    name: "Isolated",
    excludes: ["powered"],
    in: { checks: ["Off at the switch, locked and tagged"], gates: ["lock-out", "tag"], minutes: 2 },
    out: { checks: ["Tools out, guards on", "People clear", "Lock and tag off by who put them on"], minutes: 2 },
  },
  {
    id: "cool",
    name: "Cool",
    lostBy: ["powered"],
    in: { checks: ["Cool to the hand"], gates: ["cool-down"], waitMinutes: 60, belowC: 50 },
  },
  { id: "drained", name: "Drained", in: { checks: ["Empty"], gates: ["drain"] }, out: { checks: ["Drain shut"] } },
  { id: "powered", name: "With power", in: { checks: ["People clear"] } },
];
