import {
  amountFault,
  jugMl,
  type Material,
  type MixedSolution,
  type MixRecipe,
  must,
  ppmPerPercent,
  type Procedure,
  recipeAmounts,
  strengthFault,
} from "@core";
import { useState } from "react";

import { bothVolumes, figure, whyDilution } from "~/bench/calculator-why";
import { attempt, FigureField, Result } from "~/bench/fields";
import { useUnits } from "~/bench/use-units";
import { toNumber } from "~/kit/forms/to-number";

import { Actions } from "./actions";
import { LotField } from "./new-part";
import { at, type StepCardProps } from "./step-props";
import { useFault } from "./use-fault";

interface Made {
  amounts: { item: string; ml: number }[];
  finalMl: number;
  stockPercent?: number;
  because: string[];
}

/** A solution is made up with the strength the bottle has today. */
export function MixStep({ procedure, one, open, log }: StepCardProps<"mix">) {
  const { recipe } = one.definition;
  const stock =
    recipe.by === "dilution" ? procedure.materials.find((material) => material.item === recipe.stock) : undefined;
  const [strength, setStrength] = useState(stock?.stockPercent === undefined ? "" : String(stock.stockPercent));
  const [volume, setVolume] = useState(String(recipe.by === "additive" ? recipe.tankMl : recipe.finalMl));
  const [lot, setLot] = useState("");
  const done = one.state?.mixed;
  const [percent, ml] = [toNumber(strength), toNumber(volume)];
  const { refused, asks, says } = useFault(percent, recipe.by === "dilution" ? faultOfStrength(percent, stock) : null);
  const amount = useFault(ml, faultOfVolume(ml, recipe));
  const made =
    ml === null || amount.refused || (recipe.by === "dilution" && percent === null) || refused
      ? null
      : attempt(() => make(recipe, ml, percent));
  const name = (item: string): string => nameOf(procedure, item);
  if (done && !open) return <MadeUp done={done} name={name} />;
  return (
    <>
      <Wanted recipe={recipe} />
      <div className="grid gap-3 sm:grid-cols-2">
        {recipe.by === "dilution" && (
          <FigureField
            label={`${name(recipe.stock)}: strength today`}
            unit="%"
            value={strength}
            onChange={setStrength}
            disabled={!open}
          />
        )}
        <FigureField
          label={recipe.by === "additive" ? "Tank holds" : "Finished solution"}
          unit="mL"
          value={volume}
          onChange={setVolume}
          disabled={!open}
        />
      </div>
      {open && says}
      {open && amount.says}
      <Amounts made={made} name={name} />
      {open && <LotField label="Lot of the product, or batch for the label" value={lot} onChange={setLot} />}
      {open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            aria-disabled={!made?.value || asks || amount.asks}
            onClick={() => {
              if (!made?.value || asks || amount.asks) return;
              log({ type: "mixed", ...at(one), ...asLogged(made.value, lot.trim()) });
            }}
          >
            Made up and labelled
          </button>
        </Actions>
      )}
    </>
  );
}

/** What to measure out, and why so much. */
function Amounts({
  made,
  name,
}: {
  made: { value?: Made | undefined; problem?: string | undefined } | null;
  name: (item: string) => string;
}) {
  const [units] = useUnits();
  if (!made) return null;
  return (
    <Result
      {...(made.problem ? { problem: made.problem } : {})}
      {...(made.value
        ? {
            says: (
              <ul>
                {made.value.amounts.map((amount) => (
                  <li key={amount.item}>
                    <strong className="figure">{bothVolumes(amount.ml, units)}</strong> {name(amount.item)}
                  </li>
                ))}
              </ul>
            ),
            because: made.value.because,
          }
        : {})}
      caution="Gloves and glasses. Never two products together; the label's own figures come first."
    />
  );
}

function Wanted({ recipe }: { recipe: MixRecipe }) {
  if (recipe.by !== "dilution") return null;
  return (
    <p className="mb-3 text-lg">
      Wanted:{" "}
      <strong className="figure">
        {"ppm" in recipe.target ? `${recipe.target.ppm} ppm` : `${recipe.target.percent} %`}
      </strong>
    </p>
  );
}

/** Amounts as they were shown: nobody measures out more than a jug tells. */
function asLogged({ amounts, finalMl, stockPercent }: Made, batch: string) {
  return {
    amounts: amounts.map((amount) => ({ item: amount.item, ml: jugMl(amount.ml) })),
    finalMl,
    ...(stockPercent === undefined ? {} : { stockPercent }),
    ...(batch ? { batch } : {}),
  };
}

const faultOfStrength = (percent: number | null, stock: Material | undefined) =>
  percent === null ? null : strengthFault(percent, { chemical: stock?.chemical, labelled: stock?.stockPercent });

const faultOfVolume = (ml: number | null, recipe: MixRecipe) =>
  ml === null
    ? null
    : amountFault(ml, { usual: recipe.by === "additive" ? recipe.tankMl : recipe.finalMl, unit: "mL" });

function MadeUp({ done, name }: { done: MixedSolution; name: (item: string) => string }) {
  const [units] = useUnits();
  return (
    <p className="text-lg">
      {done.amounts.map((amount) => `${name(amount.item)}: ${bothVolumes(amount.ml, units)}`).join(" + ")}
      {done.stockPercent !== null && `, stock ${done.stockPercent} %`}
      {done.batch && `, batch ${done.batch}`}
    </p>
  );
}

function nameOf(procedure: Procedure, item: string): string {
  return item === "water" ? "Water" : (procedure.materials.find((material) => material.item === item)?.name ?? item);
}

function make(recipe: MixRecipe, finalMl: number, stockPercent: number | null): Made {
  const amounts = recipeAmounts(recipe, finalMl, stockPercent);
  const ml = (item: string): number => amounts.find((amount) => amount.item === item)?.ml ?? 0;
  if (recipe.by === "parts") {
    const whole = recipe.parts.reduce((sum, one) => sum + one.parts, 0);
    const because = recipe.parts.map(
      (one) => `${one.item}: ${figure(finalMl, 6)} mL × ${one.parts} ÷ ${figure(whole)} = ${figure(ml(one.item))} mL`,
    );
    return { amounts, finalMl, because };
  }
  if (recipe.by === "additive") {
    const [added, water] = [ml(recipe.item), ml("water")];
    const because = [
      `${figure(added)} mL for one filling; the rest of the tank, ${figure(finalMl, 6)} − ${figure(added)} = ${figure(water, 6)} mL, is water.`,
    ];
    return { amounts, finalMl, because };
  }
  const targetPpm = "ppm" in recipe.target ? recipe.target.ppm : recipe.target.percent * ppmPerPercent;
  return {
    amounts,
    finalMl,
    stockPercent: must(stockPercent),
    because: whyDilution({ stockPercent: must(stockPercent), targetPpm, finalMl }),
  };
}
