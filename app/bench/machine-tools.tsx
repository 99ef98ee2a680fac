import { bristleAdvice, hydrometer, must, orderChecks, strainerDrop } from "@core";
import { useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { figure } from "./calculator-why";
import { attempt, FigureField, Result } from "./fields";

const MM_PER_INCH = 25.4;

/** Specific gravity of battery cells, corrected for temperature. Inside a step the corrected values become its readings. */
export function Hydrometer({ cells, onCorrected }: { cells?: number; onCorrected?: (values: number[]) => void }) {
  const [count, setCount] = useState(cells ?? 6);
  const [sg, setSg] = useState<Record<number, string>>({});
  const [temperature, setTemperature] = useState("25");
  const [fahrenheit, setFahrenheit] = useState(false);
  const degrees = toNumber(temperature);
  const tempC = degrees === null ? null : fahrenheit ? ((degrees - 32) * 5) / 9 : degrees;
  const values = Array.from({ length: count }, (_, i) => toNumber(sg[i] ?? ""));
  const made =
    tempC !== null && values.every((value) => value !== null)
      ? attempt(() => hydrometer({ readings: values.map((value) => ({ sg: value, tempC })) }))
      : null;
  return (
    <>
      <div className="flex flex-wrap gap-4">
        <FigureField
          label="Electrolyte temperature"
          unit={fahrenheit ? "°F" : "°C"}
          value={temperature}
          onChange={setTemperature}
        />
        <label className="flex min-h-11 items-center gap-2 self-end">
          <input
            type="checkbox"
            className="size-5 accent-(--fill)"
            checked={fahrenheit}
            onChange={() => setFahrenheit(!fahrenheit)}
          />
          in °F
        </label>
      </div>
      <div className="mt-3 grid grid-cols-2 gap-2 sm:grid-cols-3">
        {values.map((_, i) => (
          <FigureField
            key={i}
            label={`Cell ${i + 1}`}
            value={sg[i] ?? ""}
            onChange={(text) => setSg({ ...sg, [i]: text })}
          />
        ))}
      </div>
      {cells === undefined && (
        <button type="button" className="btn mt-2" onClick={() => setCount(count >= 24 ? 6 : count + 6)}>
          {count >= 24 ? "6 cells" : `${count + 6} cells`}
        </button>
      )}
      {made && (
        <Result
          {...(made.problem ? { problem: made.problem } : {})}
          {...(made.value
            ? {
                says: made.value.verdict,
                because: [
                  "Rule: + 0.004 for each 5.56 °C above 26.7 °C (80 °F), − below.",
                  ...made.value.corrected.map(
                    (one, i) =>
                      `Cell ${i + 1}: ${values[i]} ${one >= must(values[i]) ? "+" : "−"} ${Math.abs(one - must(values[i])).toFixed(4)} = ${one.toFixed(4)}`,
                  ),
                  `Spread: highest less lowest = ${made.value.spread.toFixed(4)}; from 0.050 on a cell is suspect (common practice).`,
                ],
              }
            : {})}
          caution="Acid: glasses, gloves, no flame, eye wash at hand."
        />
      )}
      {made?.value && onCorrected && (
        <button
          type="button"
          className="btn mt-3"
          onClick={() => onCorrected(made.value.corrected.map((one) => Math.round(one * 1000) / 1000))}
        >
          Take the corrected values
        </button>
      )}
    </>
  );
}

/** What a strainer's pressure drop says about the flow that is left. */
export function StrainerDrop({ cleanDrop, unit, drop }: { cleanDrop?: number; unit?: string; drop?: number | null }) {
  const [clean, setClean] = useState(String(cleanDrop ?? 20));
  const [now, setNow] = useState("");
  const inStep = drop !== undefined;
  const [cleanValue, nowValue] = [toNumber(clean), inStep ? drop : toNumber(now)];
  const made =
    cleanValue !== null && nowValue !== null && nowValue > 0
      ? attempt(() => strainerDrop({ cleanDrop: cleanValue, drop: nowValue }))
      : null;
  return (
    <>
      <div className="flex flex-wrap gap-4">
        <FigureField label="Drop when clean" unit={unit ?? "any unit"} value={clean} onChange={setClean} />
        {!inStep && <FigureField label="Drop now" unit={unit ?? "same unit"} value={now} onChange={setNow} />}
      </div>
      {made && (
        <Result
          {...(made.problem ? { problem: made.problem } : {})}
          {...(made.value
            ? {
                says: made.value.verdict,
                because: [
                  `Ratio: ${nowValue} ÷ ${clean} = ${figure(made.value.ratio)}.`,
                  `Turbulent flow: drop grows with the square of the flow, so √(${clean} ÷ ${nowValue}) = ${figure(made.value.flowFraction)} of the clean flow is left.`,
                ],
              }
            : {})}
          caution="Read both at the pump's usual drive. Pressure: purge before opening."
        />
      )}
    </>
  );
}

/** Which way to turn the knob of a main broom. */
export function PolishMark({ lowMm, highMm, markMm }: { lowMm?: number; highMm?: number; markMm?: number | null }) {
  const [mark, setMark] = useState("");
  const [inches, setInches] = useState(false);
  const inStep = markMm !== undefined;
  const typed = toNumber(mark);
  const value = inStep ? markMm : typed === null ? null : inches ? typed * MM_PER_INCH : typed;
  const [low, high] = [lowMm ?? 20, highMm ?? 40];
  const made = value === null ? null : attempt(() => bristleAdvice({ markMm: value, lowMm: low, highMm: high }));
  return (
    <>
      {!inStep && (
        <div className="flex flex-wrap gap-4">
          <FigureField label="Width of the mark" unit={inches ? "in" : "mm"} value={mark} onChange={setMark} />
          <label className="flex min-h-11 items-center gap-2 self-end">
            <input
              type="checkbox"
              className="size-5 accent-(--fill)"
              checked={inches}
              onChange={() => setInches(!inches)}
            />
            in inches
          </label>
        </div>
      )}
      {made && (
        <Result
          {...(made.problem ? { problem: made.problem } : {})}
          {...(made.value
            ? {
                says:
                  made.value.turn === "none"
                    ? made.value.message
                    : `Turn towards ${made.value.turn}. ${made.value.message}`,
                because: [
                  `Typical band: ${figure(low)} to ${figure(high)} mm (${figure(low / MM_PER_INCH)} to ${figure(high / MM_PER_INCH)} in).`,
                  `The mark: ${figure(must(value))} mm (${figure(must(value) / MM_PER_INCH)} in). Narrow: the broom hardly touches; wide: it is pressed and wears.`,
                ],
              }
            : {})}
          caution="Key out before reaching under the broom."
        />
      )}
    </>
  );
}

/** The order of checks with the least expected time. */
export function FaultOrder() {
  const [rows, setRows] = useState([
    { id: "Plug, breaker, valve", probability: "50", minutes: "2" },
    { id: "Dial, set screw", probability: "30", minutes: "5" },
    { id: "Thermostat", probability: "20", minutes: "25" },
  ]);
  const change = (i: number, set: Partial<(typeof rows)[number]>): void =>
    setRows(rows.map((row, at) => (at === i ? { ...row, ...set } : row)));
  const numbers = rows.map((row) => ({
    id: row.id,
    probability: toNumber(row.probability),
    minutes: toNumber(row.minutes),
  }));
  const made = numbers.every((one) => one.probability !== null && one.minutes !== null)
    ? attempt(() =>
        orderChecks({
          causes: numbers.map((one) => ({
            id: one.id,
            probability: must(one.probability) / 100,
            minutes: must(one.minutes),
          })),
        }),
      )
    : null;
  return (
    <>
      {rows.map((row, i) => (
        <div key={i} className="mb-2 flex flex-wrap items-end gap-3">
          <div>
            <label htmlFor={`cause-${i}`} className="mb-1 block font-semibold">
              Cause {i + 1}
            </label>
            <input
              id={`cause-${i}`}
              className="field max-w-52"
              value={row.id}
              onChange={(event) => change(i, { id: event.target.value })}
            />
          </div>
          <FigureField
            label="Likely"
            unit="%"
            value={row.probability}
            onChange={(probability) => change(i, { probability })}
          />
          <FigureField
            label="Check takes"
            unit="min"
            value={row.minutes}
            onChange={(minutes) => change(i, { minutes })}
          />
        </div>
      ))}
      <button
        type="button"
        className="btn"
        onClick={() => setRows([...rows, { id: `Cause ${rows.length + 1}`, probability: "0", minutes: "5" }])}
      >
        Another cause
      </button>
      {made && (
        <Result
          {...(made.problem ? { problem: `${made.problem} The percentages must add up to 100.` } : {})}
          {...(made.value
            ? {
                says: (
                  <>
                    {made.value.order.join(" → ")}; <span className="figure">{figure(made.value.expectedMinutes)}</span>{" "}
                    min on average
                  </>
                ),
                because: [
                  "Rule: likelihood per minute, highest first; every check up to and including the cause's is carried out.",
                  ...numbers.map((one) => `${one.id}: ${one.probability} % ÷ ${one.minutes} min`),
                ],
              }
            : {})}
          caution="Make it safe before every check; mains, gas and refrigerant are for licensed persons."
        />
      )}
    </>
  );
}
