import { useEffect, useRef } from "react";
import { useFetcher } from "react-router";

/** What the finder answers. */
export interface FoundItems {
  items: { id: string; name: string; note: string; unit: string; scanCode: string | null }[];
}

const WAIT_MS = 200;
/** Fewer letters find everything. */
const FEWEST_LETTERS = 2;

/** Items of the catalogue that begin like the words, asked for when no more is typed; without a connection nothing. */
export function useFoundItems(words: string): FoundItems & { busy: boolean } {
  const { load, data, state } = useFetcher<FoundItems>();
  const asked = useRef("");
  const q = words.trim();
  useEffect(() => {
    if (q.length < FEWEST_LETTERS || q === asked.current) return;
    const timer = setTimeout(() => {
      asked.current = q;
      void load(`/stores/find?${new URLSearchParams({ q })}`);
    }, WAIT_MS);
    return () => clearTimeout(timer);
  }, [q, load]);
  return { items: q.length < FEWEST_LETTERS ? [] : (data?.items ?? []), busy: state !== "idle" };
}
