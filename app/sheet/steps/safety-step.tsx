import { useState } from "react";
import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";

export function SafetyStep({ one, open, log }: StepCardProps<"safety">) {
  const [ticked, setTicked] = useState<Record<string, boolean>>({});
  const all = one.definition.checks.every((check) => ticked[check]);
  return (
    <>
      <ul className="mb-5 space-y-2">
        {one.definition.checks.map((check) => (
          <li key={check}>
            <label className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2 has-checked:border-ink">
              <input
                type="checkbox"
                className="size-6 shrink-0 accent-(--fill)"
                checked={one.settled || (ticked[check] ?? false)}
                disabled={!open}
                onChange={(event) => setTicked({ ...ticked, [check]: event.target.checked })}
              />
              <span>{check}</span>
            </label>
          </li>
        ))}
      </ul>
      {open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" aria-disabled={!all} onClick={() => all && log({ type: "safety-confirmed", ...at(one) })}>
            {all ? "All safe: go on" : "Tick each first"}
          </button>
        </Actions>
      )}
    </>
  );
}
