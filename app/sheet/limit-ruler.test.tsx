import { must } from "@core";
import { renderToStaticMarkup } from "react-dom/server";

import { LimitRuler } from "./limit-ruler";

const draw = (props: Partial<Parameters<typeof LimitRuler>[0]>): string =>
  renderToStaticMarkup(<LimitRuler limits={{ min: 0.8, max: 1.6 }} unit="in" marks={[]} ghosts={[]} {...props} />);
const one = (value: number) => ({ marks: [{ label: "", value }] });
const markerAt = (markup: string): number => Number(must(/M ([\d.]+) 40 l/.exec(markup))[1]);
const band = (markup: string): { from: number; to: number } => {
  const [, x, width] = must(/<rect x="([\d.-]+)" y="26" width="([\d.]+)"/.exec(markup));
  return { from: Number(x), to: Number(x) + Number(width) };
};

it("places a reading within the band exactly when it is within the limits", () => {
  for (const value of [0.79, 0.8, 1.2, 1.6, 1.61, 0, 5]) {
    const markup = draw(one(value));
    const { from, to } = band(markup);
    const inside = markerAt(markup) >= from - 1e-9 && markerAt(markup) <= to + 1e-9;
    expect([value, inside]).toEqual([value, value >= 0.8 && value <= 1.6]);
    expect(markup).toContain(value < 0.8 ? "too low" : value > 1.6 ? "too high" : "within limits");
  }
});

it("keeps readings far off on the ruler, with an arrow", () => {
  expect(draw(one(99))).toContain("99 »");
  expect(draw(one(-99))).toContain("« -99");
  expect(markerAt(draw(one(99)))).toBeLessThanOrEqual(320);
});

it("draws one-sided limits, a limit of zero width and a limit of zero", () => {
  expect(band(draw({ limits: { min: 2 } })).to).toBeGreaterThanOrEqual(320);
  expect(band(draw({ limits: { below: 0.02 } })).from).toBeLessThanOrEqual(0);
  for (const limits of [{ min: 0, max: 0 }, { max: 0 }, { min: 0 }]) {
    expect(draw({ limits, ...one(0) })).toContain("within limits");
    expect(draw({ limits, ...one(0) })).not.toContain("NaN");
  }
});

it("shows the last readings as ghosts and says what is allowed", () => {
  const markup = draw({ ghosts: [1, 1.1, 1.3] });
  expect(markup.match(/<circle/g)).toHaveLength(3);
  expect(markup).toContain("at least 0.8 and at most 1.6 in");
});

it("shows the points of one measurement together, each on a line of its own, and says which is out", () => {
  const marks = [
    { label: "Left", value: 1.2 },
    { label: "Middle", value: 1.21 },
    { label: "Right", value: 0.7 },
  ];
  const markup = draw({ marks });
  expect(markup).toContain("Left 1.2 in: within limits. Middle 1.21 in: within limits. Right 0.7 in: too low.");
  const lines = [...markup.matchAll(/<text x="[\d.]+" text-anchor="\w+" y="(-?[\d.]+)" class/g)].map(([, y]) =>
    Number(y),
  );
  expect(new Set(lines.filter((y) => y < 26)).size).toBe(3);
  expect(markup.match(/<rect/g)).toHaveLength(draw({}).match(/<rect/g)?.length ?? 0);
});
