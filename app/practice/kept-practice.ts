import type { RunEvent } from "@core";

/** How far a practised sheet got. */
export interface KeptPractice {
  entries: RunEvent[];
  options: string[];
}

const keyOf = (runId: string): string => `hound-practice-${runId}`;

/** How far it got on this device; null when nothing was done, or it cannot be read any more. */
export function keptPractice(runId: string): KeptPractice | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(runId)) ?? "null") as Partial<KeptPractice> | null;
    return Array.isArray(kept?.entries) && Array.isArray(kept.options)
      ? { entries: kept.entries, options: kept.options }
      : null;
  } catch {
    return null;
  }
}

/** Keeps it on this device: whoever leaves the page goes on where they were. */
export function keepPractice(runId: string, kept: KeptPractice): void {
  try {
    localStorage.setItem(keyOf(runId), JSON.stringify(kept));
  } catch {
    // A device without room: the practice goes on, and is lost with the page.
  }
}

/** It was handed in. */
export function forgetPractice(runId: string): void {
  try {
    localStorage.removeItem(keyOf(runId));
  } catch {
    // Nor was it kept then.
  }
}
