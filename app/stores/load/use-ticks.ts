import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";

import { keepTicks, keptTicks } from "./kept-ticks";

export interface Ticks {
  shown: (line: string, kept: boolean) => boolean;
  fault: (line: string) => string | null;
  tick: (lines: readonly string[], ticked: boolean) => void;
  /** How many wait for a connection. */
  waiting: number;
}

/** Without a connection it is tried again after so long, and whenever the device says that there is one. */
const AGAIN_MS = 15_000;

/**
 * Ticks of a load list: shown at once and sent. Without a connection they wait in the browser, whatever becomes of the page, and
 * are sent when there is one; what the server does not take goes back to what it was and says so.
 */
export function useTicks(on: string, personId: string | null): Ticks {
  const { revalidate } = useRevalidator();
  const place = `${personId ?? "own"} ${on}`;
  const [wanted, setWanted] = useState<Record<string, boolean>>({});
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [waiting, setWaiting] = useState<Record<string, boolean>>({});
  const sending = useRef(false);

  const send = async (all: Record<string, boolean>): Promise<void> => {
    if (sending.current || Object.keys(all).length === 0) return;
    sending.current = true;
    try {
      for (const ticked of [true, false]) {
        const lines = Object.keys(all).filter((line) => all[line] === ticked);
        if (lines.length === 0) continue;
        const fault = await post({ on, personId, lines, ticked });
        const rest = Object.fromEntries(
          Object.entries(keptTicks(place)).filter(([line, now]) => !lines.includes(line) || now !== ticked),
        );
        keepTicks(place, rest);
        setWaiting(rest);
        if (fault !== null)
          setFaults((before) => ({ ...before, ...Object.fromEntries(lines.map((line) => [line, fault])) }));
        else await revalidate();
        setWanted((before) => Object.fromEntries(Object.entries(before).filter(([line]) => !lines.includes(line))));
      }
    } catch {
      // No connection: they wait.
      setWaiting(keptTicks(place));
    } finally {
      sending.current = false;
    }
  };

  useEffect(() => {
    const again = (): void => void send(keptTicks(place));
    again();
    window.addEventListener("online", again);
    const timer = setInterval(again, AGAIN_MS);
    return () => {
      window.removeEventListener("online", again);
      clearInterval(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- one timer for a list, whatever is drawn anew
  }, [place]);

  return {
    shown: (line, kept) => wanted[line] ?? waiting[line] ?? kept,
    fault: (line) => faults[line] ?? null,
    waiting: Object.keys(waiting).length,
    tick(lines, ticked) {
      const marked = Object.fromEntries(lines.map((line) => [line, ticked]));
      setWanted((before) => ({ ...before, ...marked }));
      setFaults((before) => Object.fromEntries(Object.entries(before).filter(([line]) => !lines.includes(line))));
      const all = { ...keptTicks(place), ...marked };
      keepTicks(place, all);
      void send(all);
    },
  };
}

/** @throws when nobody answers */
async function post(said: {
  on: string;
  personId: string | null;
  lines: readonly string[];
  ticked: boolean;
}): Promise<string | null> {
  const body = new FormData();
  for (const [name, value] of Object.entries({
    on: said.on,
    for: said.personId ?? "",
    ticked: said.ticked ? "yes" : "no",
  }))
    body.set(name, value);
  for (const line of said.lines) body.append("line", line);
  const response = await fetch("/round/load/tick", { method: "POST", body });
  if (response.status >= 500) throw new Error("no answer");
  const answer = (await response.json()) as FormAnswer;
  return allFaults(answerTo(answer, answer.form));
}
