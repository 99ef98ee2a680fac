import { useState } from "react";
import { useRevalidator } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";

/**
 * Ticks of a load list: shown at once, sent one by one. What could not be kept, without a connection for one, goes back to
 * what it was and says so.
 */
export function useTicks(
  on: string,
  personId: string | null,
): {
  shown: (line: string, kept: boolean) => boolean;
  fault: (line: string) => string | null;
  tick: (line: string, ticked: boolean) => void;
} {
  const { revalidate } = useRevalidator();
  const [wanted, setWanted] = useState<Record<string, boolean>>({});
  const [faults, setFaults] = useState<Record<string, string>>({});
  const forget = (line: string): void => setWanted(({ [line]: _, ...rest }) => rest);
  const send = async (line: string, ticked: boolean): Promise<string | null> => {
    try {
      const body = new FormData();
      for (const [name, value] of Object.entries({ on, for: personId ?? "", line, ticked: ticked ? "yes" : "no" }))
        body.set(name, value);
      const response = await fetch("/round/load/tick", { method: "POST", body });
      const answer = (await response.json()) as FormAnswer;
      return allFaults(answerTo(answer, answer.form));
    } catch {
      return "No connection: not kept. Try again when there is one.";
    }
  };
  return {
    shown: (line, kept) => wanted[line] ?? kept,
    fault: (line) => faults[line] ?? null,
    tick(line, ticked) {
      setWanted((before) => ({ ...before, [line]: ticked }));
      setFaults(({ [line]: _, ...rest }) => rest);
      void send(line, ticked).then(async (fault) => {
        if (fault === null) await revalidate();
        else setFaults((before) => ({ ...before, [line]: fault }));
        forget(line);
      });
    },
  };
}
