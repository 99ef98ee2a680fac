import { additive, byParts, checkMix, chemicalClasses, must, toMl } from "@core";
import { useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { bothVolumes, figure } from "./calculator-why";
import { attempt, FigureField, Result } from "./fields";
import { useUnits } from "./use-units";

/** A volume split by parts. */
export function Parts() {
  const [units] = useUnits();
  const [rows, setRows] = useState([
    { name: "Cleaner", parts: "1" },
    { name: "Water", parts: "3" },
  ]);
  const [volume, setVolume] = useState("1");
  const final = toNumber(volume);
  const numbers = rows.map((row) => toNumber(row.parts));
  const made =
    final !== null && numbers.every((one) => one !== null)
      ? attempt(() => {
          const finalMl = toMl(final, units === "us" ? "us-gal" : "L");
          return {
            finalMl,
            ml: byParts({ parts: Object.fromEntries(numbers.map((parts, i) => [`${i}`, parts])), finalMl }),
          };
        })
      : null;
  const whole = numbers.reduce<number>((sum, one) => sum + (one ?? 0), 0);
  const change = (i: number, set: Partial<(typeof rows)[number]>): void =>
    setRows(rows.map((row, at) => (at === i ? { ...row, ...set } : row)));
  return (
    <>
      {rows.map((row, i) => (
        <div key={i} className="mb-2 flex flex-wrap items-end gap-3">
          <div>
            <label htmlFor={`part-name-${i}`} className="mb-1 block font-semibold">
              Component {i + 1}
            </label>
            <input
              id={`part-name-${i}`}
              className="field max-w-44"
              value={row.name}
              onChange={(event) => change(i, { name: event.target.value })}
            />
          </div>
          <FigureField label="Parts" value={row.parts} onChange={(parts) => change(i, { parts })} />
          {made?.value && <p className="figure pb-2 text-lg">{bothVolumes(must(made.value.ml[`${i}`]), units)}</p>}
        </div>
      ))}
      <div className="flex flex-wrap items-end gap-3">
        <FigureField
          label="Finished mixture"
          unit={units === "us" ? "US gal" : "L"}
          value={volume}
          onChange={setVolume}
        />
        <button type="button" className="btn" onClick={() => setRows([...rows, { name: "", parts: "1" }])}>
          Another component
        </button>
      </div>
      {made && (
        <Result
          {...(made.problem ? { problem: made.problem } : { says: `${figure(whole)} parts in all` })}
          because={
            made.value
              ? rows.map(
                  (row, i) =>
                    `${row.name || `Component ${i + 1}`}: ${figure(made.value.finalMl, 6)} mL × ${row.parts} ÷ ${figure(whole)} = ${figure(must(made.value.ml[`${i}`]))} mL`,
                )
              : []
          }
          caution="Volumes are taken to add up; alcohol and water shrink a little."
        />
      )}
    </>
  );
}

/** A fixed amount of additive for each tank. */
export function Additive() {
  const [units] = useUnits();
  const [tank, setTank] = useState("3");
  const [amount, setAmount] = useState("75");
  const [tankL, ml] = [toNumber(tank), toNumber(amount)];
  const made =
    tankL !== null && ml !== null
      ? attempt(() => additive({ tankMl: toMl(tankL, units === "us" ? "us-gal" : "L"), additiveMl: ml }))
      : null;
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        <FigureField label="Tank holds" unit={units === "us" ? "US gal" : "L"} value={tank} onChange={setTank} />
        <FigureField label="Additive for one filling" unit="mL" value={amount} onChange={setAmount} />
      </div>
      {made && (
        <Result
          {...(made.problem ? { problem: made.problem } : {})}
          {...(made.value
            ? {
                says: `${bothVolumes(made.value.additiveMl, units)} of additive, ${bothVolumes(made.value.waterMl, units)} of water`,
                because: [
                  `The tank less the additive: ${figure(made.value.additiveMl + made.value.waterMl, 6)} − ${figure(made.value.additiveMl, 6)} mL.`,
                ],
              }
            : {})}
          caution="Additive first, then water: it foams when poured on top."
        />
      )}
    </>
  );
}

/** Whether two products may meet. */
export function Compatibility() {
  const [a, setA] = useState<string>("hypochlorite");
  const [b, setB] = useState<string>("acid");
  const { safe, hazard, source } = checkMix(a, b);
  const pick = (id: string, label: string, value: string, set: (value: string) => void) => (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <select id={id} className="field" value={value} onChange={(event) => set(event.target.value)}>
        {chemicalClasses.map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </select>
    </div>
  );
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        {pick("class-a", "On the machine", a, setA)}
        {pick("class-b", "Comes next", b, setB)}
      </div>
      <Result
        says={
          safe ? (
            "No hazard between these classes is known here."
          ) : (
            <strong>Never together, and never one after the other without a rinse. {hazard}</strong>
          )
        }
        because={
          source
            ? [`Source: ${source} (from memory). Product classes stand on the label or in the safety data sheet.`]
            : ["Looked up in a table of classes; absence of a hazard there is no proof."]
        }
        caution="Labels and safety data sheets come first. When in doubt, rinse."
      />
    </>
  );
}
