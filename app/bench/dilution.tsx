import { dilute, must, ppmPerPercent, toMl } from "@core";
import { useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { bothVolumes, whyDilution } from "./calculator-why";
import { attempt, FigureField, Result } from "./fields";
import { useUnits } from "./use-units";

/** How much stock and water: with the strength the bottle has today. Prints the batch's label. */
export function Dilution() {
  const [units] = useUnits();
  const [stock, setStock] = useState("5");
  const [target, setTarget] = useState("100");
  const [targetUnit, setTargetUnit] = useState<"ppm" | "percent">("ppm");
  const [volume, setVolume] = useState(units === "us" ? "1" : "5");
  const [name, setName] = useState("");
  const figures = { stock: toNumber(stock), target: toNumber(target), volume: toNumber(volume) };
  const ready = figures.stock !== null && figures.target !== null && figures.volume !== null;
  const made = ready
    ? attempt(() => {
        const finalMl = toMl(must(figures.volume), units === "us" ? "us-gal" : "L");
        const targetPpm = must(figures.target) * (targetUnit === "percent" ? ppmPerPercent : 1);
        const mixed = dilute({ stockPercent: must(figures.stock), target: { ppm: targetPpm }, finalMl });
        return { ...mixed, because: whyDilution({ stockPercent: must(figures.stock), targetPpm, finalMl }) };
      })
    : null;
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-3">
        <FigureField label="Stock's strength today" unit="%" value={stock} onChange={setStock} />
        <div>
          <FigureField label="Wanted" value={target} onChange={setTarget} />
          <div className="mt-1 flex gap-4" role="radiogroup" aria-label="Unit of the strength wanted">
            {(["ppm", "percent"] as const).map((unit) => (
              <label key={unit} className="flex min-h-11 items-center gap-2">
                <input
                  type="radio"
                  className="size-5 accent-(--fill)"
                  checked={targetUnit === unit}
                  onChange={() => setTargetUnit(unit)}
                />
                {unit === "ppm" ? "ppm (mg/L)" : "%"}
              </label>
            ))}
          </div>
        </div>
        <FigureField
          label="Finished solution"
          unit={units === "us" ? "US gal" : "L"}
          value={volume}
          onChange={setVolume}
        />
      </div>
      {made && (
        <Result
          {...(made.problem ? { problem: made.problem } : {})}
          {...(made.value
            ? {
                says: (
                  <>
                    <strong className="figure">{bothVolumes(made.value.stockMl, units)}</strong> of stock into{" "}
                    <strong className="figure">{bothVolumes(made.value.waterMl, units)}</strong> of water
                  </>
                ),
                because: made.value.because,
              }
            : {})}
          caution="Water first, then the product. Gloves and glasses; never two products together. The label's own figures come first."
        />
      )}
      <div className="no-print mt-3">
        <label htmlFor="batch-name" className="mb-1 block font-semibold">
          Name on the batch label
        </label>
        <div className="flex flex-wrap gap-2">
          <input
            id="batch-name"
            className="field max-w-60"
            value={name}
            onChange={(event) => setName(event.target.value)}
            maxLength={60}
          />
          <button type="button" className="btn" onClick={() => window.print()}>
            Print the label
          </button>
        </div>
      </div>
      {made?.value && (
        <div className="mt-4 hidden border-2 border-ink p-3 print:block">
          <p className="text-lg font-bold">{name || "Solution"}</p>
          <p className="figure">
            {target} {targetUnit === "ppm" ? "ppm" : "%"} · from {stock} % stock · made up ________ by ________ · use
            until ________
          </p>
        </div>
      )}
    </>
  );
}
