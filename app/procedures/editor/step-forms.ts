import { drawingNames, inWords } from "@core";

import { f, type FieldKind, nameIn } from "./field-kinds";
import { sources } from "./sources";

const must = { required: true };

const LABELS = f("labels", "Labels", "lines", must);
/** Schematics beside a step. */
export const FIGURE: FieldKind = {
  one: "schematic",
  of: nameIn("kind"),
  variants: {
    tightening: {
      name: "Tightening order",
      fields: [f("bolts", "Bolts", "number", must)],
      empty: { kind: "tightening", bolts: 4 },
    },
    "polish-mark": {
      name: "Polish mark",
      fields: [f("low", "From", "number", must), f("high", "To", "number", must), f("unit", "Unit", "line", must)],
      empty: { kind: "polish-mark", low: 10, high: 14, unit: "mm" },
    },
    "battery-level": {
      name: "Level of a battery cell",
      fields: [
        f(
          "school",
          "Filled",
          {
            choices: [
              ["height", "to a height above the plates"],
              ["band", "to a band below the well"],
            ],
          },
          must,
        ),
      ],
      empty: { kind: "battery-level", school: "height" },
    },
    "gap-gauge": {
      name: "Gap with its gauge",
      fields: [f("limit", "Limit", "number", must), f("unit", "Unit", "line", must)],
      empty: { kind: "gap-gauge", limit: 0.1, unit: "mm" },
    },
    pair: { name: "A pair", fields: [LABELS], empty: { kind: "pair", labels: ["left", "right"] } },
    slots: { name: "Slots in a row", fields: [LABELS], empty: { kind: "slots", labels: ["1", "2", "3"] } },
    edges: {
      name: "Edges of a blade",
      fields: [f("count", "Edges", "number", must)],
      empty: { kind: "edges", count: 4 },
    },
    drawing: {
      name: "A drawing of a place",
      fields: [f("of", "Which", { choices: drawingNames.map((name) => [name, inWords(name)]) }, must)],
      empty: { kind: "drawing", of: drawingNames[0] },
    },
  },
};

/** Calculators that open inside a measuring step. */
export const CALCULATOR: FieldKind = {
  one: "calculator",
  of: nameIn("kind"),
  variants: {
    "belt-time": {
      name: "Belt time",
      fields: [f("setSeconds", "Dial, seconds", "number", must), f("tolerancePercent", "Tolerance, percent", "number")],
      empty: { kind: "belt-time", setSeconds: 300 },
    },
    hydrometer: {
      name: "Hydrometer",
      fields: [f("cells", "Cells", "number", must)],
      empty: { kind: "hydrometer", cells: 6 },
    },
    "strainer-drop": {
      name: "Strainer's drop",
      fields: [f("cleanDrop", "Drop when clean", "number", must), f("unit", "Unit", "line", must)],
      empty: { kind: "strainer-drop", cleanDrop: 20, unit: "kPa" },
    },
    "polish-mark": {
      name: "Polish mark",
      fields: [f("lowMm", "From, mm", "number", must), f("highMm", "To, mm", "number", must)],
      empty: { kind: "polish-mark", lowMm: 10, highMm: 14 },
    },
    "relative-sd": {
      name: "Scatter of repeats",
      fields: [f("repeats", "Repeats", "number", must)],
      empty: { kind: "relative-sd", repeats: 5 },
    },
    "control-chart": {
      name: "Control chart of the services",
      fields: [
        f("target", "Target", "number", must),
        f("sd", "Standard deviation", "number", must),
        f("lambda", "Weight of the newest, 0 to 1", "number"),
        f("worked", "The reading is worked out", {
          choices: [
            ["lot-score", "in standard deviations of a lot"],
            ["percent-of-own", "in percent of its own clean signal"],
          ],
        }),
      ],
      empty: { kind: "control-chart", target: 100, sd: 2 },
    },
  },
};

const STRENGTH: FieldKind = {
  one: "strength",
  of: (value) => (value !== null && typeof value === "object" && "percent" in value ? "percent" : "ppm"),
  variants: {
    ppm: { name: "in ppm", fields: [f("ppm", "ppm", "number", must)], empty: { ppm: 100 } },
    percent: { name: "in percent", fields: [f("percent", "Percent", "number", must)], empty: { percent: 1 } },
  },
};

/** How a solution is made up. */
export const RECIPE: FieldKind = {
  one: "recipe",
  of: nameIn("by"),
  variants: {
    dilution: {
      name: "A stock diluted to a strength",
      fields: [
        f("stock", "Stock", { pick: sources.materials }, must),
        f("target", "Strength wanted", STRENGTH, must),
        f("finalMl", "Makes, mL", "number", must),
      ],
      empty: { by: "dilution", stock: "", target: { ppm: 100 }, finalMl: 1000 },
    },
    parts: {
      name: "So many parts of each",
      fields: [
        f(
          "parts",
          "Parts",
          {
            list: [f("item", "Of", { pick: sources.stocks }, must), f("parts", "Parts", "number", must)],
            one: "part",
            empty: { item: "", parts: 1 },
          },
          must,
        ),
        f("finalMl", "Makes, mL", "number", must),
      ],
      empty: {
        by: "parts",
        parts: [
          { item: "water", parts: 9 },
          { item: "", parts: 1 },
        ],
        finalMl: 1000,
      },
    },
    additive: {
      name: "So much into a tank",
      fields: [
        f("item", "What", { pick: sources.materials }, must),
        f("additiveMl", "How much, mL", "number", must),
        f("tankMl", "Tank, mL", "number", must),
      ],
      empty: { by: "additive", item: "", additiveMl: 100, tankMl: 10_000 },
    },
  },
};
