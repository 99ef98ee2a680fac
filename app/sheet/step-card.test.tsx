import { drawingNames, foldRun, must, type Procedure, type RunEventBody, type Step, type StepRef } from "@core";
import { renderToStaticMarkup } from "react-dom/server";

import { PaperPage } from "~/sheet/paper/paper-page";
import { entriesOf } from "~/testing/entries";
import { stepMarkup } from "~/testing/step-markup";
import { StepFigure } from "~/ui/figure";

import { allShipped, whole } from "../../core/sheet/testing/shipped";
import type { SheetFacts } from "./sheet-facts";

const all = allShipped().map((one, _, written) => whole(one, written));
const find = (id: string): Procedure => must(all.find((one) => one.id === id));

/** Every step's markup as it stands before anything is tapped, or after the given entries. */
function markup(
  procedure: Procedure,
  step: string,
  bodies: RunEventBody[] = [],
  facts: Partial<SheetFacts> = {},
  elapsedMinutes: number | null = null,
): string {
  const entries = entriesOf(bodies);
  const state = foldRun(procedure, entries);
  const at: StepRef = { step, round: state.rounds[step] ?? 1 };
  const one = {
    ...at,
    definition: must(procedure.steps.find((candidate) => candidate.id === step)),
    state: state.steps[step] ?? null,
    settled: false,
  };
  return stepMarkup(procedure, state, one, { ...facts, elapsedMinutes });
}

/** The words on the button that settles a step of each kind. */
const BUTTONS: Record<Step["kind"], RegExp> = {
  safety: /Tick each first|Not (cool )?yet/,
  do: /Done|>Off<|All back on/,
  inspect: /As it should be/,
  measure: /Log the readings?/,
  wait: /Start the clock/,
  mix: /Made up and labelled/,
  count: /One .* more/,
  replace: /fitted|None renewed yet/,
  turn: /New one fitted/,
  repeat: /./,
  choose: /Go this way/,
  decide: /<button/,
  reset: /Log what it shows/,
  prove: /As expected/,
  find: /./,
  "hand-off": /Handed over/,
  nested: /^never$/,
};

it.each(all.map((one) => [one.id, one] as const))(
  "every step of %s is drawn with its title and its button",
  (_id, procedure) => {
    for (const step of procedure.steps) {
      const html = markup(procedure, step.id);
      expect(html).toContain(escaped(step.title));
      expect([step.id, BUTTONS[step.kind].test(html)]).toEqual([step.id, true]);
      if (step.figure) expect(html).toContain("<figcaption");
    }
  },
);

it.each(all.map((one) => [one.id, one] as const))(
  "%s prints with a place to write for every step",
  (_id, procedure) => {
    const html = renderToStaticMarkup(<PaperPage procedure={procedure} machine={null} />);
    expect(html.match(/<tr /g)).toHaveLength(procedure.steps.length + 1);
    for (const hazard of procedure.hazards) expect(html).toContain(escaped(hazard.text));
    // Each drawing once: what is drawn again names the first.
    const drawn = procedure.steps.flatMap(({ figure }) => (figure ? [JSON.stringify(figure)] : []));
    expect(html.match(/<figure /g) ?? []).toHaveLength(new Set(drawn).size);
    expect(html.match(/Drawing: no\. \d/g) ?? []).toHaveLength(drawn.length - new Set(drawn).size);
  },
);

describe("what a step says", () => {
  it("a cool-down: how hot, in both units, and that it is still too hot", () => {
    const oven = find("conveyor-oven-daily");
    const cool = "gate-cool-in-1";
    expect(markup(oven, cool)).toContain("below 50 °C (122 °F), or after 60 min");
    expect(markup(oven, cool, [{ type: "reading", step: cool, round: 1, value: 74, unit: "°C" }])).toContain(
      "still too hot",
    );
    expect(markup(oven, cool, [{ type: "timer-started", step: cool, round: 1 }], {}, 61)).toContain("Tick each first");
  });
  it("a block in its last pass: that not clean is a finding, and that the work goes on", () => {
    const maker = find("flake-ice-maker-clean-sanitise");
    const again = (passes: number): string =>
      markup(
        maker,
        "reservoir-clean",
        Array.from({ length: passes }, (_, i) => ({
          type: "step-done" as const,
          step: "reservoir-clean",
          round: i + 1,
          answer: "again",
        })),
      );
    expect(again(2)).not.toContain("Not clean: log it and go on");
    expect(again(3)).toContain("Not clean: log it and go on");
    expect(again(3)).toContain("Pass 4 is the last");
  });
  it("a blade: turned while an edge is left, else a new one", () => {
    const scrubber = find("ride-on-scrubber-brushes");
    const with_ = (usesLeft: number): string =>
      markup(scrubber, "blade", [], {
        machine: { options: [], slots: { "rear-blade": { item: "squeegee-blade", usesLeft } } },
      });
    expect(with_(3)).toContain("Turned to use 3 of 4");
    expect(with_(1)).not.toContain("Turned to use");
    expect(with_(1)).toContain("Its last use is worn");
    expect(markup(scrubber, "blade")).toContain("fit a new one, it has 4 uses");
  });
  it("a solution: both units, both components, and why", () => {
    const html = markup(find("soft-serve-freezer-opening"), "sanitiser");
    for (const words of ["100 ppm", "1 mL", "499 mL", "Why?", "× 500 ÷ 50,000"]) expect(html).toContain(words);
  });
  it("several runs: their mean against the limits", () => {
    const oven = find("conveyor-oven-weekly");
    const runs = [314, 318].map((value, point): RunEventBody => ({
      type: "reading",
      step: "belt-time",
      round: 1,
      value,
      unit: "s",
      point,
    }));
    expect(markup(oven, "belt-time", runs)).toContain("316 s");
    expect(markup(oven, "belt-time", runs)).toContain("Belt slower than its dial");
  });
  it("an instrument: the registered ones of its kind", () => {
    const instruments = [
      { id: "1", code: "F-01", kind: "feeler-gauge", name: "Feelers", calibrationDue: null },
      { id: "2", code: "T-01", kind: "thermometer", name: "Probe", calibrationDue: null },
    ];
    const html = markup(find("flake-ice-maker-bearings"), "bearing-gap", [], { instruments });
    expect(html).toContain("F-01, Feelers");
    expect(html).not.toContain("T-01");
  });
  it("chlorine after acid: stop, and no button", () => {
    const html = markup(find("flake-ice-maker-clean-sanitise"), "sanitiser", [
      { type: "step-done", step: "fill-cleaner", round: 1 },
    ]);
    expect(html).toContain("Chlorine gas is set free");
    expect(html).not.toContain("Made up and labelled");
  });
});

it.each([
  [{ kind: "tightening", bolts: 8 }, "1, 5, 3, 7, 2, 6, 4, 8"],
  [{ kind: "polish-mark", low: 0.8, high: 1.6, unit: "in" }, "0.8 to 1.6 in"],
  [{ kind: "battery-level", school: "height" }, "1/8 in"],
  [{ kind: "battery-level", school: "band" }, "between the marks"],
  [{ kind: "gap-gauge", limit: 0.02, unit: "in" }, "0.02 in must not go in"],
  [{ kind: "pair", labels: ["top", "bottom"] }, "top and bottom, always both"],
  [{ kind: "slots", labels: ["a", "b", "c"] }, "a · b · c"],
  [{ kind: "edges", count: 4 }, "4 usable edges"],
] as const)("the schematic %j says what it shows", (figure, words) => {
  const html = renderToStaticMarkup(<StepFigure figure={figure as Parameters<typeof StepFigure>[0]["figure"]} />);
  expect(html).toContain(words);
  expect(html).toContain('aria-hidden="true"');
});

it.each(drawingNames)("the drawing %s shows a place, says in words what of it, and stands in a shipped sheet", (of) => {
  const html = renderToStaticMarkup(<StepFigure figure={{ kind: "drawing", of }} />);
  expect(html).toContain('aria-hidden="true"');
  expect((/<figcaption[^>]*>([^<]+)/.exec(html)?.[1] ?? "").length).toBeGreaterThan(30);
  const uses = all.flatMap((one) => one.steps).filter((one) => one.figure?.kind === "drawing" && one.figure.of === of);
  expect(uses.length).toBeGreaterThan(0);
});

function escaped(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll('"', "&quot;").replaceAll("'", "&#x27;");
}
