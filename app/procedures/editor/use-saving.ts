import { useEffect, useMemo, useState } from "react";
import { useFetcher } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";

const SAVE_AFTER_MS = 800;

export interface Saving<Faults> {
  saved: boolean;
  problem: string | null;
  revision: number;
  faults: Faults;
}

/**
 * Saves a draft a moment after the last change; a save that was refused keeps the text in the window and says why.
 *
 * @param action the draft's page, whose form `save` takes it
 */
export function useSaving<Faults>(
  action: string,
  body: unknown,
  first: { revision: number; faults: Faults },
): Saving<Faults> {
  const fetcher = useFetcher<FormAnswer<{ revision: number; faults: Faults }>>();
  const [revision, setRevision] = useState(first.revision);
  const [faults, setFaults] = useState(first.faults);
  const text = useMemo(() => JSON.stringify(body), [body]);
  const [savedText, setSavedText] = useState(text);
  const [sentText, setSentText] = useState(text);
  const [taken, setTaken] = useState<unknown>(null);
  const { state, data: answer, submit } = fetcher;
  if (state === "idle" && answer?.result && answer !== taken) {
    setTaken(answer);
    setRevision(answer.result.revision);
    setFaults(answer.result.faults);
    setSavedText(sentText);
  }
  const problem = state === "idle" && answer ? allFaults(answerTo(answer, "save")) : null;
  useEffect(() => {
    if (text === savedText || state !== "idle" || problem) return;
    const timer = setTimeout(() => {
      setSentText(text);
      void submit({ intent: "save", body: text, revision: String(revision) }, { method: "post", action });
    }, SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [text, savedText, state, problem, submit, action, revision]);
  return { saved: text === savedText, problem, revision, faults };
}
