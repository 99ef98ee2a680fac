import { must } from "@core";
import { useState } from "react";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";

/** Ways that practitioners differ on; the default is ticked, and each says why. */
export function ChooseStep({ one, open, log }: StepCardProps<"choose">) {
  const { question, schools } = one.definition;
  const [chosen, setChosen] = useState(one.state?.answer ?? must(schools[0]).id);
  return (
    <>
      <fieldset className="mb-5" disabled={!open}>
        <legend className="mb-2 text-xl font-semibold">{question}</legend>
        {schools.map((school, i) => (
          <label
            key={school.id}
            className="mb-2 flex min-h-12 items-start gap-3 border-2 border-line p-3 has-checked:border-ink"
          >
            <input
              type="radio"
              name="school"
              className="mt-1 size-6 shrink-0 accent-(--fill)"
              checked={chosen === school.id}
              onChange={() => setChosen(school.id)}
            />
            <span>
              <strong>{school.name}</strong>
              {i === 0 && " (default)"}
              <span className="block text-ink-soft">{school.why}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            onClick={() => log({ type: "step-done", ...at(one), answer: chosen })}
          >
            Go this way
          </button>
        </Actions>
      )}
    </>
  );
}

/** One tap on what it is. */
export function DecideStep({ one, open, log }: StepCardProps<"decide">) {
  const { question, branches } = one.definition;
  return (
    <>
      <p className="mb-4 text-xl font-semibold">{question}</p>
      <ul className="space-y-2">
        {branches.map((branch) => (
          <li key={branch.id}>
            <button
              type="button"
              className="btn btn-big w-full justify-start text-left"
              disabled={!open}
              aria-pressed={one.state?.answer === branch.id}
              onClick={() => log({ type: "step-done", ...at(one), answer: branch.id })}
            >
              <span>
                {branch.name}
                {branch.leadsTo && <span className="block text-sm font-normal">{branch.leadsTo}</span>}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
