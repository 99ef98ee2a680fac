import type { Step } from "@core";

/** How a field of a step is edited. Lists are one entry a line; the rest of the format is edited as JSON. */
export type FieldKind = "line" | "text" | "number" | "lines" | "yes" | "json" | { choices: readonly string[] };

export interface FieldSpec {
  field: string;
  label: string;
  kind: FieldKind;
  hint?: string;
  /** Stays when empty; other empty fields are left out. */
  required?: boolean;
}

const f = (field: string, label: string, kind: FieldKind = "line", more: Partial<FieldSpec> = {}): FieldSpec => ({
  field,
  label,
  kind,
  ...more,
});
const must = { required: true };

/** Fields that any step may have. */
export const COMMON_FIELDS: readonly FieldSpec[] = [
  f("title", "Title", "line", must),
  f("text", "What to know", "text"),
  f("minutes", "Hands-on minutes", "number"),
  f("area", "Area", "line", { hint: "A heading for long lists." }),
];

/** Fields that any step may have and few need. */
export const RARE_FIELDS: readonly FieldSpec[] = [
  f("when", "Only when", "json", {
    hint: 'For example [{"option":"water-filter","fitted":true}] or [{"step":"bearing-gap","is":"high"}]',
  }),
  f("uses", "Uses", "json", {
    hint: 'For example [{"item":"ice-cleaner","qty":235}]; items stand on the material list.',
  }),
  f("removes", "Comes off here", "lines"),
  f("refits", "Goes back on here", "lines"),
  f("rinses", "Rinses away what was applied", "yes"),
  f("needs", "Shared place it takes", "lines", { hint: "sink, hood or hose: one machine at a time." }),
  f("figure", "Schematic", "json", { hint: 'For example {"kind":"tightening","bolts":4}' }),
];

const SLOTS = [f("item", "Part", "line", must), f("slots", "Slots", "lines", must)];

export const KIND_FIELDS: Record<Step["kind"], readonly FieldSpec[]> = {
  safety: [
    f("checks", "Checks", "lines", must),
    f("gates", "Makes safe by", "lines", {
      hint: "lock-out, tag, protective, isolate, vent, drain, park, cool-down, stored-energy, ventilate",
    }),
    f("coolDown", "Cool-down", "json", { hint: 'For example {"belowC":40,"minutes":30}' }),
  ],
  do: [],
  inspect: [
    f("asItShouldBe", "As it should be", "text", must),
    f("ifNot", "If not", "text", must),
    f(
      "finding",
      "Logs a finding",
      { choices: ["minor", "major", "unsafe"] },
      { hint: "Unsafe takes the machine out of service." },
    ),
  ],
  measure: [
    f("reading", "Name of the reading", "line", { ...must, hint: "Small letters and hyphens; trends go by it." }),
    f("unit", "Unit", "line", must),
    f("points", "Points", "lines"),
    f("trials", "Runs", "number"),
    f("judge", "Judged by", { choices: ["each", "mean", "spread"] }),
    f("limits", "Limits", "json", {
      hint: 'For example {"min":0.8,"max":1.6}; below and above do not belong to the band.',
    }),
    f("target", "Target", "number"),
    f("meter", "Is this meter", "line"),
    f("retest", "Adjust and measure again until within limits", "yes"),
    f("advice", "Advice", "json", { hint: 'For example {"low":"Turn towards lower","high":"Turn towards higher"}' }),
    f("instrument", "Instrument", "line", { hint: "Kind, such as feeler-gauge." }),
    f("stage", "Is always", { choices: ["as-found", "as-left"] }),
    f("calculator", "Calculator", "json"),
  ],
  wait: [
    f("minMinutes", "At least, minutes", "number", must),
    f("maxMinutes", "At most, minutes", "number"),
    f("meanwhile", "Steps to do meanwhile", "lines"),
    f("attended", "Somebody must stand by", "yes"),
    f("ifShort", "When cut short", "text"),
    f("ifLong", "When over the maximum", "text"),
  ],
  mix: [
    f("recipe", "Recipe", "json", {
      ...must,
      hint: '{"by":"dilution","stock":"bleach","target":{"ppm":200},"finalMl":5000}',
    }),
  ],
  count: [f("times", "Times", "number", must), f("each", "Each is called", "line", must)],
  replace: SLOTS,
  turn: SLOTS,
  repeat: [
    f("from", "Goes back to the step", "line", must),
    f("question", "Question", "line", must),
    f("clean", "Answer that goes on", "line", must),
    f("again", "Answer that repeats", "line", must),
    f("maxRounds", "Most rounds", "number"),
  ],
  choose: [f("question", "Question", "line", must), f("schools", "Schools, the first is the default", "json", must)],
  decide: [f("question", "Question", "line", must), f("branches", "Branches", "json", must)],
  reset: [f("meter", "Meter", "line", must), f("expect", "Shows afterwards", "number", must)],
  prove: [
    f("expect", "Expected", "text", must),
    f("proof", "Proof", { choices: ["leak-check", "test-piece", "check-fluid", "function-test", "first-output"] }),
  ],
  "hand-off": [f("to", "To whom", "line", must)],
  nested: [f("procedure", "Procedure", "line", must), f("version", "Version", "number", must)],
};

/** A new step of a kind, ready to be filled in. */
export function emptyStep(kind: Step["kind"], id: string): Step {
  const step: Record<string, unknown> = { id, kind, title: "" };
  for (const { field, kind: type, required } of KIND_FIELDS[kind]) {
    if (!required) continue;
    step[field] = type === "lines" ? [] : type === "number" ? 1 : type === "json" ? EMPTY_JSON[field] : "";
  }
  return step as unknown as Step;
}

const EMPTY_JSON: Record<string, unknown> = {
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

/** The text of a field as it is edited. */
export function fieldText(value: unknown, kind: FieldKind): string {
  if (value === undefined || value === null) return "";
  if (kind === "lines") return Array.isArray(value) ? value.join("\n") : "";
  if (kind === "json") return JSON.stringify(value, null, 1);
  return typeof value === "string" || typeof value === "number" || typeof value === "boolean" ? String(value) : "";
}

/** The value of an edited text: undefined leaves the field out; `fault` says why it cannot be taken yet. */
export function fieldValue(text: string, kind: FieldKind): { value?: unknown; fault?: string } {
  if (kind === "lines") {
    const lines = text.split("\n").filter((line) => line.trim() !== "");
    return lines.length > 0 ? { value: lines.map((line) => line.trim()) } : {};
  }
  if (text.trim() === "") return {};
  if (kind === "number") {
    const value = Number(text.trim().replace(",", "."));
    return Number.isFinite(value) ? { value } : { fault: "This is no figure." };
  }
  if (kind === "json") {
    try {
      return { value: JSON.parse(text) as unknown };
    } catch {
      return { fault: "This is no JSON yet." };
    }
  }
  return { value: text };
}
