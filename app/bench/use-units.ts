import { useCallback, useSyncExternalStore } from "react";

import type { UnitSystem } from "./calculator-why";

const KEY = "hound-units";
const listeners = new Set<() => void>();

function read(): UnitSystem {
  try {
    return localStorage.getItem(KEY) === "us" ? "us" : "metric";
  } catch {
    return "metric";
  }
}

/** The units a person works in, kept on the device. */
export function useUnits(): [UnitSystem, (system: UnitSystem) => void] {
  const units = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    read,
    () => "metric" as const,
  );
  const choose = useCallback((system: UnitSystem) => {
    try {
      localStorage.setItem(KEY, system);
    } catch {
      // Private mode: metric until the page is left.
    }
    for (const listener of listeners) listener();
  }, []);
  return [units, choose];
}
