import { checkProcedure, type LintFinding, lintProcedure, must, type Procedure } from "@core";

import { Section } from "~/ui/section";

export interface Mend extends LintFinding {
  /** The reference fault's own place, when it is none of the linter's. */
  path?: string;
}

/** All that a draft has to mend: references that do not hold, and what is not good practice. */
export function mendsOf(procedure: Procedure): Mend[] {
  try {
    const faults = checkProcedure(procedure).map(({ path, message }): Mend => {
      const index = /^steps\[(\d+)\]/.exec(path)?.[1];
      const step = index === undefined ? undefined : procedure.steps[Number(index)]?.id;
      return { rule: "reference", severity: "error", message, path, ...(step === undefined ? {} : { step }) };
    });
    return [...faults, ...lintProcedure(procedure)];
  } catch (error) {
    // Half-written JSON of the right name and the wrong shape.
    return [
      { rule: "form", severity: "error", message: `A list is not in the form it needs (${(error as Error).message}).` },
    ];
  }
}

/** The linter, live beside the editor. */
export function LintPanel({ mends, onChoose }: { mends: readonly Mend[]; onChoose: (step: string) => void }) {
  return (
    <Section id="lint" title={mends.length === 0 ? "Nothing to mend" : `${mends.length} to mend`} panel>
      <ul className="mt-1 space-y-2 text-sm" aria-live="polite">
        {mends.map((one, i) => (
          <li key={i} className="border-l-4 border-line pl-2">
            <strong>{one.severity === "error" ? "! " : "Better: "}</strong>
            {one.message}{" "}
            {one.step !== undefined && (
              <button
                type="button"
                className="min-h-8 underline underline-offset-4"
                onClick={() => onChoose(must(one.step))}
              >
                Show
              </button>
            )}
          </li>
        ))}
      </ul>
    </Section>
  );
}
