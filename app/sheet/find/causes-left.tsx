import { type LearnedCause, UNKNOWN_CAUSE } from "@core";

import { chanceWords } from "./find-view";

/** The causes with their chances now; those that are ruled out stay, struck through. */
export function CausesLeft({
  causes,
  learned,
}: {
  causes: readonly { cause: string; name: string; chance: number }[];
  learned: Readonly<Record<string, LearnedCause>> | undefined;
}) {
  const seen = Object.values(learned ?? {}).reduce((sum, one) => sum + one.n, 0);
  return (
    <section aria-label="Causes">
      <h3 className="font-semibold">What it can be</h3>
      <ul className="mt-1 space-y-1.5">
        {causes.map(({ cause, name, chance }) => {
          const n = learned?.[cause]?.n ?? 0;
          return (
            <li key={cause}>
              <span className="flex justify-between gap-2">
                <span className={chance <= 0 ? "text-ink-soft line-through" : cause === UNKNOWN_CAUSE ? "italic" : ""}>
                  {name}
                  {n > 0 && <span className="text-sm text-ink-soft"> · found {n === 1 ? "once" : `${n} times`}</span>}
                </span>
                <span className="figure shrink-0 text-sm">{chanceWords(chance)}</span>
              </span>
              <span aria-hidden className="block h-1.5 bg-sunken">
                <span className="block h-1.5 bg-tan-fill" style={{ width: `${Math.round(chance * 100)}%` }} />
              </span>
            </li>
          );
        })}
      </ul>
      <p className="mt-1 text-sm text-ink-soft">
        {seen === 0
          ? "Typical chances; yours take over as you log."
          : `Learned from ${seen} ${seen === 1 ? "fault" : "faults"} found so far, beginning with typical chances.`}
      </p>
    </section>
  );
}
