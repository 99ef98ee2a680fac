import { dilute, jugMl, millilitresIn, must, ppmPerPercent, type VolumeUnit } from "@core";

/** A figure for a sentence: three significant digits are more than any measuring jug has. */
export function figure(value: number, digits = 3): string {
  if (value === 0) return "0";
  const rounded = Number(value.toPrecision(digits));
  return Math.abs(rounded) >= 1000 ? Math.round(rounded).toLocaleString("en") : String(rounded);
}

export type UnitSystem = "metric" | "us";

const STEPS: Record<UnitSystem, { from: number; unit: VolumeUnit; name: string; measured?: (ml: number) => number }[]> =
  {
    metric: [
      // In hundredths before anything else is rounded: 2.925 is a little less than that to a computer.
      { from: 1000, unit: "L", name: "L", measured: (ml) => Math.round(ml / 10) / 100 },
      { from: 0, unit: "mL", name: "mL", measured: jugMl },
    ],
    us: [
      { from: millilitresIn["us-gal"], unit: "us-gal", name: "US gal" },
      { from: millilitresIn["us-cup"], unit: "us-cup", name: "US cup" },
      { from: 0, unit: "us-floz", name: "US fl oz" },
    ],
  };

/** A volume in a person's units, in the largest unit that it fills. */
export function volumeWords(ml: number, system: UnitSystem): string {
  const step = must(STEPS[system].find(({ from }) => ml >= from));
  return `${figure(step.measured?.(ml) ?? ml / millilitresIn[step.unit])} ${step.name}`;
}

/** A volume in both systems: mixing up the two hurts. */
export function bothVolumes(ml: number, first: UnitSystem): string {
  return `${volumeWords(ml, first)} (${volumeWords(ml, first === "metric" ? "us" : "metric")})`;
}

/** Rule, inputs and arithmetic of a dilution. */
export function whyDilution(input: { stockPercent: number; targetPpm: number; finalMl: number }): string[] {
  const { stockPercent, targetPpm, finalMl } = input;
  const { stockMl, waterMl } = dilute({ stockPercent, target: { ppm: targetPpm }, finalMl });
  return [
    "Rule: stock volume × its strength = final volume × the strength wanted (1 % = 10,000 ppm; 1 ppm = 1 mg/L).",
    `Stock: ${figure(stockPercent)} % = ${figure(stockPercent * ppmPerPercent, 6)} ppm. Wanted: ${figure(targetPpm, 6)} ppm in ${figure(finalMl, 6)} mL.`,
    `${figure(targetPpm, 6)} × ${figure(finalMl, 6)} ÷ ${figure(stockPercent * ppmPerPercent, 6)} = ${figure(stockMl)} mL of stock; the rest, ${figure(waterMl)} mL, is water.`,
  ];
}
