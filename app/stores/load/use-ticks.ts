import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { useMe } from "~/people/use-me";

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
  const me = useMe()?.id ?? "";
  // On a device that several use, each person's own.
  const place = `${me} ${personId ?? me} ${on}`;
  /** What the server has not answered yet. The reference is what counts: it is looked at between answers. */
  const open = useRef<Record<string, boolean>>({});
  const [shown, setShown] = useState<Record<string, boolean>>({});
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [away, setAway] = useState(false);
  const sending = useRef(false);

  const keep = (ticks: Record<string, boolean>): void => {
    open.current = ticks;
    keepTicks(place, ticks);
    setShown(ticks);
  };
  const send = async (): Promise<void> => {
    if (sending.current) return;
    sending.current = true;
    try {
      // What is ticked meanwhile goes in the next turn.
      for (let [next] = Object.entries(open.current); next; [next] = Object.entries(open.current)) {
        const [, ticked] = next;
        const lines = Object.keys(open.current).filter((line) => open.current[line] === ticked);
        const fault = await post({ on, personId, lines, ticked });
        if (fault === null) await revalidate();
        else setFaults((before) => ({ ...before, ...Object.fromEntries(lines.map((line) => [line, fault])) }));
        // Changed again since it was sent, a line is still open.
        keep(without(open.current, (line, now) => lines.includes(line) && now === ticked));
      }
      setAway(false);
    } catch {
      setAway(true);
    } finally {
      sending.current = false;
    }
  };

  useEffect(() => {
    keep({ ...keptTicks(place), ...open.current });
    const again = (): void => void send();
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
    shown: (line, kept) => shown[line] ?? kept,
    fault: (line) => faults[line] ?? null,
    waiting: away ? Object.keys(shown).length : 0,
    tick(lines, ticked) {
      keep({ ...open.current, ...Object.fromEntries(lines.map((line) => [line, ticked])) });
      setFaults((before) => without(before, (line) => lines.includes(line)));
      void send();
    },
  };
}

const without = <Value>(
  all: Record<string, Value>,
  gone: (line: string, value: Value) => boolean,
): Record<string, Value> => Object.fromEntries(Object.entries(all).filter(([line, value]) => !gone(line, value)));

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
