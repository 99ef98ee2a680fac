import type { RunEvent } from "@core";

import type { Actor } from "~/kit/actor";
import { isClockTime, isInstant } from "~/kit/days/is-day";

/** A device's clock may be this far ahead of the server's. */
const CLOCK_SLACK_MS = Number(process.env.HOUND_CLOCK_SLACK_MIN ?? 10) * 60_000;
/** A device may have been away for this long. */
const LONGEST_AWAY_MS = 60 * 86_400_000;
/** What is keyed in from paper was worked before its sheet was opened here. */
const FROM_PAPER = "paper";

export interface EntryRefusal {
  code: string;
  message: string;
}

const CLOCK_FAR_OFF = {
  code: "clock",
  message: "This device's clock is far off the server's. Set the clock; nothing logged is lost.",
};

/** A clock that has lost its time says 1970: what was logged by it is sent again with the right one. */
export function notValid(raw: unknown, fault: string): EntryRefusal {
  const at = (raw as { at?: unknown } | null)?.at;
  return isClockTime(at) && !isInstant(at) ? CLOCK_FAR_OFF : { code: "not-valid", message: fault };
}

/** What can be judged from the entry alone. */
export function whyNotTake(entry: RunEvent, actor: Actor, sheetId: string, now: Date): EntryRefusal | null {
  if (entry.runId !== sheetId) return { code: "other-sheet", message: "This entry belongs to another sheet." };
  if (entry.by !== actor.id)
    return {
      code: "not-yours",
      message: "This was logged by another person: they must sign in on this device to send it.",
    };
  if (Date.parse(entry.at) > now.getTime() + CLOCK_SLACK_MS) {
    return {
      code: "clock",
      message: "This device's clock is ahead of the server's. Set the clock; nothing logged is lost.",
    };
  }
  if (Date.parse(entry.at) < now.getTime() - LONGEST_AWAY_MS) return CLOCK_FAR_OFF;
  if (entry.type === "started" && entry.begins)
    return {
      code: "not-this-way",
      message: "What the duty before has left is known to the server: open the sheet from the duty.",
    };
  if (entry.type === "signed" && entry.role === "technician") {
    return { code: "not-this-way", message: "A technician signs on the sheet's own page, with the password." };
  }
  return null;
}

/** Nothing is logged on a sheet before it is there, but for what comes from paper. */
export function beforeItsSheet(entry: RunEvent, openedMs: number): (EntryRefusal & { notBefore: string }) | null {
  if (entry.device === FROM_PAPER || Date.parse(entry.at) >= openedMs - CLOCK_SLACK_MS) return null;
  return {
    code: "clock",
    message: "Its time is before its sheet was opened: the device's clock is wrong. Set it; nothing logged is lost.",
    notBefore: new Date(openedMs).toISOString(),
  };
}
