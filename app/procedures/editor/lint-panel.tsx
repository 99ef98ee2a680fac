import { must } from "@core";

import { Section } from "~/ui/section";

import type { Mend } from "./mends";

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
