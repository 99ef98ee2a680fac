import { useState } from "react";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";
import { Choices, useQuestion } from "./use-question";

export function ResetStep(props: StepCardProps<"reset">) {
  const { one, open, log, procedure } = props;
  const question = useQuestion(props);
  const [text, setText] = useState("");
  const { value, fault, choices } = question.read(text);
  const meter = procedure.meters.find((candidate) => candidate.id === one.definition.meter);
  const wrong = one.state?.readings.at(-1)?.value;
  return (
    <>
      <label htmlFor="reset" className="mb-1 block font-semibold">
        {meter?.name ?? "Counter"} after the reset
      </label>
      <div className="flex items-center gap-2">
        <input
          id="reset"
          className="field figure max-w-44 text-2xl"
          inputMode="decimal"
          autoComplete="off"
          disabled={!open}
          aria-invalid={fault !== null || choices !== null}
          aria-describedby="reset-says"
          value={open ? text : String(wrong ?? "")}
          onChange={(event) => setText(event.target.value)}
        />
        <span className="text-xl">{meter?.unit}</span>
      </div>
      <p id="reset-says" className="mt-1 min-h-6 text-sm">
        {fault !== null && <strong>! {fault}</strong>}
        <Choices choices={choices} onChoice={setText} />
      </p>
      {open && wrong !== undefined && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          ! It shows {wrong}, not {one.definition.expect}: it is not reset. Left so, the next service comes at the wrong
          time.
        </p>
      )}
      {open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            aria-disabled={value === null}
            onClick={() => {
              if (value === null) return;
              log({ type: "reading", ...at(one), value, unit: meter?.unit ?? "count" });
              setText("");
            }}
          >
            Log what it shows
          </button>
        </Actions>
      )}
    </>
  );
}
