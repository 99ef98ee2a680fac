import { useEffect, useRef, useState } from "react";

import { linesOf } from "~/kit/read-progress";

import type { WeekProposal } from "./propose-week.server";

type State =
  | { kind: "none" }
  | { kind: "working"; done: number; total: number }
  | { kind: "failed"; words: string }
  | { kind: "there"; proposal: WeekProposal };

const LOST = "The connection was lost before the week was worked out. Try again.";

/**
 * A week's proposal, told while it is worked out; another one, or leaving the page, ends it.
 *
 * @param place changes with what was sent meanwhile: what was proposed before is no proposal any more
 */
export function useProposal(from: string, place: string): { state: State; propose: () => void; stop: () => void } {
  const [state, setState] = useState<State>({ kind: "none" });
  const asked = useRef<AbortController | null>(null);
  useEffect(() => () => asked.current?.abort(), [place]);
  const [where, setWhere] = useState(place);
  if (where !== place) {
    setWhere(place);
    if (state.kind !== "none") setState({ kind: "none" });
  }
  const stop = (): void => {
    asked.current?.abort();
    setState({ kind: "none" });
  };
  const propose = (): void => {
    asked.current?.abort();
    const own = new AbortController();
    asked.current = own;
    setState({ kind: "working", done: 0, total: 1 });
    const told = (next: State): void => {
      if (!own.signal.aborted) setState(next);
    };
    void ask(from, own.signal, (done, total) => told({ kind: "working", done, total }))
      .then((proposal) => told({ kind: "there", proposal }))
      .catch((error: unknown) => told({ kind: "failed", words: error instanceof Refused ? error.message : LOST }));
  };
  return { state, propose, stop };
}

/** What the server said in words. */
class Refused extends Error {}

async function ask(
  from: string,
  signal: AbortSignal,
  onProgress: (done: number, total: number) => void,
): Promise<WeekProposal> {
  const response = await fetch("/round/week/proposal", {
    method: "POST",
    body: new URLSearchParams({ intent: "propose", from }),
    signal,
  });
  if (!response.headers.get("Content-Type")?.includes("ndjson") || !response.body)
    throw new Refused("The week could not be proposed. Load the page again and try once more.");
  for await (const line of linesOf<WeekProposal>(response.body)) {
    if (line.fault !== undefined) throw new Refused(line.fault);
    if (line.result !== undefined) return line.result;
    onProgress(line.done ?? 0, line.total ?? 1);
  }
  throw new Error("cut off");
}
