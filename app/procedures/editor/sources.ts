import { inWords, type Step } from "@core";

import { FAMILIES } from "~/ui/family-names";

import type { Around, Choice } from "./field-kinds";

const named = (id: string, name: string): Choice => ({ id, name });
const titled = (step: Step): Choice => named(step.id, step.title || "(no title)");
const once = (choices: readonly Choice[]): Choice[] => [...new Map(choices.map((one) => [one.id, one])).values()];

const partsMoved = ({ procedure }: Around, way: "takesOff" | "putsBack") =>
  once(procedure.steps.flatMap((one) => (one[way] ?? []).map(({ item }) => named(item, item))));

/** Where choices come from. */
export const sources = {
  options: ({ procedure }: Around) => procedure.options,
  meters: ({ procedure }: Around) => procedure.meters,
  otherMeters: ({ procedure, within }: Around) => procedure.meters.filter((one) => one.id !== within["id"]),
  bases: ({ procedure }: Around) => [named("day", "Days"), ...procedure.meters],
  states: ({ procedure }: Around) => procedure.states ?? [],
  otherStates: ({ procedure, within }: Around) => (procedure.states ?? []).filter((one) => one.id !== within["id"]),
  materials: ({ procedure }: Around) =>
    procedure.materials.map(({ item, name, unit }) => named(item, `${name}${unit ? `, ${unit}` : ""}`)),
  stocks: ({ procedure }: Around) => [
    named("water", "Water"),
    ...procedure.materials.map((one) => named(one.item, one.name)),
  ],
  parts: ({ procedure }: Around) => procedure.parts.map(({ item, name }) => named(item, name)),
  slots: ({ procedure, within }: Around) =>
    procedure.parts.filter((part) => part.item === within["item"]).flatMap((part) => part.slots),
  paths: ({ procedure }: Around) =>
    once(procedure.steps.flatMap(({ opens }) => (opens ? [named(opens, inWords(opens))] : []))),
  earlierSteps: ({ procedure, step }: Around) =>
    procedure.steps
      .slice(
        0,
        procedure.steps.findIndex((one) => one.id === step),
      )
      .map(titled),
  laterSteps: ({ procedure, step }: Around) =>
    procedure.steps.slice(procedure.steps.findIndex((one) => one.id === step) + 1).map(titled),
  partsOff: (around: Around) => partsMoved(around, "takesOff"),
  partsBack: (around: Around) => partsMoved(around, "putsBack"),
  readings: ({ procedure }: Around) =>
    once(
      procedure.steps.flatMap((one) =>
        one.kind === "measure" && one.reading ? [named(one.reading, inWords(one.reading))] : [],
      ),
    ),
  procedures: ({ library, procedure }: Around) => library.filter((one) => one.id !== procedure.id),
  families: () => Object.entries(FAMILIES).map(([id, name]) => named(id, name)),
  items: ({ items }: Around) => items,
  answers: answersOf,
};

/** What an earlier step may have come to. */
function answersOf({ procedure, within }: Around): Choice[] {
  const step = procedure.steps.find((one) => one.id === within["step"]);
  switch (step?.kind) {
    case "measure":
    case "reset":
      return [
        named("in", "within limits"),
        named("out", "beyond them"),
        named("low", "too low"),
        named("high", "too high"),
      ];
    case "choose":
      return step.schools.map(({ id, name }) => named(id, name));
    case "decide":
      return step.branches.map(({ id, name }) => named(id, name));
    case "inspect":
    case "prove":
      return [named("ok", "as it should be"), named("not-ok", "not as it should be")];
    case "repeat":
      return [named("clean", step.clean), named("again", step.again)];
    default:
      return [];
  }
}
