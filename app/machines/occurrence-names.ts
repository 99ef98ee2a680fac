import { capital } from "~/kit/capital";

const NAMES: Record<string, string> = {
  "after-run": "A run has ended",
  "after-charge": "It was charged",
  "warning-light": "The warning light came on",
  "idle-ahead": "It will stand idle",
};

/** An occurrence's name as people say it. */
export function occurrenceName(event: string): string {
  const plain = event.replaceAll("-", " ");
  return NAMES[event] ?? capital(plain);
}
