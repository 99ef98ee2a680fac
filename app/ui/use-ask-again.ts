import { useEffect } from "react";
import { useRevalidator } from "react-router";

const ASK_MS = 1000;

/** Reads the page again, now and then, while something is on its way and somebody looks at it. */
export function useAskAgain(open: boolean): void {
  const { revalidate, state } = useRevalidator();
  useEffect(() => {
    if (!open || state !== "idle") return undefined;
    const timer = setInterval(() => {
      if (document.visibilityState !== "hidden") void revalidate();
    }, ASK_MS);
    return () => clearInterval(timer);
  }, [open, state, revalidate]);
}
